import type { ReactNode } from "react";
import { Button } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import type { Step } from "../../questions/lightWatch";
import { words } from "../../words";
import { timeText } from "../../words/times";
import { watchWords as say } from "../../words/watch";
import { type Known, lightText, sureText } from "./known";

interface HowKnownProps {
  known: Known | null;
  simulated: boolean;
  onClose: () => void;
  children: ReactNode;
}

/** What says how bright it is, with the weight of each; and what becomes of the pictures. */
export function HowKnown({ known, simulated, onClose, children }: HowKnownProps) {
  return (
    <Modal show onHide={onClose} centered aria-labelledby="light-watch-title">
      <Modal.Header closeButton closeLabel={words.entry.cancel}>
        <Modal.Title id="light-watch-title">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>{lightText(known)}</p>
        {known && known.weights.length > 0 && (
          <dl className="light-weights" aria-label={say.weights}>
            {known.weights.map(({ source, share, sd }) => (
              <div key={source}>
                <dt>{say.source[source]}</dt>
                <dd>{say.weight(Math.round(share * 100), sureText(sd))}</dd>
              </div>
            ))}
          </dl>
        )}
        {known && known.steps.length > 0 && (
          <ul className="light-steps">
            {known.steps.slice(-MOST_STEPS).map((step) => (
              <li key={step.at_seconds}>{stepText(step, known.from)}</li>
            ))}
          </ul>
        )}
        {children}
        <p>{simulated ? say.simulatedNow : say.privacy}</p>
        {!simulated && <p className="mb-0">{say.power}</p>}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="signal" onClick={onClose}>
          {words.bench.meteredWith.done}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

const MOST_STEPS = 5;

function stepText({ at_seconds, stops }: Step, from: Known["from"]): string {
  const size = words.staff.stops(Math.abs(stops).toFixed(1));
  const when = timeText(Math.max(1, Math.round(Math.abs(at_seconds))));
  return say.step(
    size,
    stops > 0,
    from === "metering" ? say.afterMetering(when) : say.aroundOpening(when, at_seconds < 0),
  );
}
