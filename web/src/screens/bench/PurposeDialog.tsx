import { Button, Form } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { type Bench, type Laid, MOST_THIRDS } from "../../state/bench";
import { words } from "../../words";
import { signedThirds } from "../../words/times";
import { purposeText } from "./purposeText";
import { Value } from "../../ui/kinds/Value";

const say = words.purpose;

interface Props {
  laid: Laid;
  set: (change: Partial<Bench>) => void;
  onClose: () => void;
}

/** What is meant otherwise than the meter says: thirds on purpose, what the last frame taught, black and white. */
export function PurposeDialog({ laid: { bench }, set, onClose }: Props) {
  const thirds = (count: number) => set({ purposeThirds: Math.max(-MOST_THIRDS, Math.min(MOST_THIRDS, count)) });
  return (
    <Modal show onHide={onClose} centered aria-labelledby="purpose-title">
      <Modal.Header closeButton closeLabel={words.close}>
        <Modal.Title id="purpose-title">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        <p className="mb-0">{say.intro}</p>
        <Value
          what={say.label}
          value={bench.purposeThirds === 0 ? "0" : signedThirds(bench.purposeThirds / 3)}
          caption={purposeText(bench)}
          onStep={(by) => thirds(bench.purposeThirds + by)}
          onType={() => thirds(0)}
        />
        {bench.correction && (
          <div className="heading-line">
            <p className="mb-0">{say.correction(bench.correction.name)}</p>
            <Button variant="quiet" onClick={() => set({ correction: null })}>
              {say.forget}
            </Button>
          </div>
        )}
        <Form.Check
          id="monochrome"
          className="choice"
          checked={bench.monochrome}
          onChange={(event) => set({ monochrome: event.target.checked })}
          label={
            <>
              <strong>{say.monochrome}</strong> <span>{say.monochromeWhy}</span>
            </>
          }
        />
      </Modal.Body>
      <Modal.Footer>
        <Button variant="signal" onClick={onClose}>
          {words.close}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
