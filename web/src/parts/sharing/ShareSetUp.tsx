import qrcode from "qrcode-generator";
import { Button } from "react-bootstrap";
import type { Laid } from "../../state/bench";
import { fragmentOf } from "../../state/sharing";
import { copyText, handOn, sharesItself } from "../../ui/handOn";
import { Modal } from "../../ui/opened";
import { words } from "../../words";
import { dialogWords } from "../../words/dialogs";
import "./sharing.css";

const say = dialogWords.sharing;

/** What stands on the bench as a link and as a code to be photographed; both need no account. */
export function ShareSetUp({ laid, onClose }: { laid: Laid; onClose: () => void }) {
  const link = `${globalThis.location.origin}/${fragmentOf(laid)}`;
  return (
    <Modal show onHide={onClose} centered scrollable aria-labelledby="share-title">
      <Modal.Header>
        <Modal.Title id="share-title">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="sharing">
        <p>{say.why}</p>
        <Code text={link} />
        <input
          className="form-control"
          readOnly
          value={link}
          aria-label={say.link}
          onFocus={(event) => event.target.select()}
        />
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {words.more.done}
        </Button>
        {sharesItself() && (
          <Button variant="quiet" onClick={() => void handOn({ title: say.title, text: link })}>
            {say.send}
          </Button>
        )}
        <Button variant="signal" onClick={() => void copyText(link)}>
          {say.copy}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

/** Black on white in every light, as a camera wants it. */
function Code({ text }: { text: string }) {
  const code = qrcode(0, "L");
  code.addData(text);
  code.make();
  const count = code.getModuleCount();
  const squares = Array.from({ length: count }, (_, row) =>
    Array.from({ length: count }, (__, column) => (code.isDark(row, column) ? `M${column} ${row}h1v1h-1z` : "")).join(
      "",
    ),
  ).join("");
  return (
    <svg
      className="qr"
      viewBox={`-4 -4 ${count + 8} ${count + 8}`}
      role="img"
      aria-label={say.code}
      shapeRendering="crispEdges"
    >
      <rect x="-4" y="-4" width={count + 8} height={count + 8} fill="#fff" />
      <path d={squares} fill="#000" />
    </svg>
  );
}
