import { Button } from "react-bootstrap";
import { useLocation } from "wouter";
import { type Bench, useBench } from "../../state/bench";
import { benchFrom, readShared } from "../../state/sharing";
import { Modal } from "../../ui/opened";
import { say as toast } from "../../ui/say";
import { words } from "../../words";
import { dialogWords } from "../../words/dialogs";
import "./sharing.css";

const say = dialogWords.sharing;

/** A set-up that came with the address: shown first, taken only when somebody says so. */
export function SharedSetUp({ fragment, onClose }: { fragment: string; onClose: () => void }) {
  const [laid, move] = useBench();
  const [, go] = useLocation();
  const shared = readShared(fragment);
  const fit = shared && laid ? benchFrom(shared, laid.bag) : null;
  const take = () => {
    if (!fit || !laid) return;
    const before: Partial<Bench> = laid.bench;
    move({ do: "set", change: fit.change });
    toast({ text: say.taken, action: { label: say.undo, act: () => move({ do: "set", change: before }) } });
    onClose();
    go("/");
  };
  return (
    <Modal show onHide={onClose} centered aria-labelledby="shared-title">
      <Modal.Header>
        <Modal.Title id="shared-title">{say.came}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="sharing">
        {shared ? (
          <>
            <p>
              {shared.meter === "camera"
                ? say.reading(shared.shutter, shared.aperture, shared.iso)
                : say.ev(shared.ev100.toFixed(1))}
            </p>
            <p>{say.filters(shared.on.map((glass) => glass.name))}</p>
            {fit && fit.missing.length > 0 && <p className="advice-harm">{say.missing(fit.missing)}</p>}
            <p className="quiet">{say.replaces}</p>
          </>
        ) : (
          <p>{say.unread}</p>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {shared ? words.entry.cancel : words.more.done}
        </Button>
        {shared && (
          <Button variant="signal" disabled={!fit} onClick={take}>
            {say.take}
          </Button>
        )}
      </Modal.Footer>
    </Modal>
  );
}
