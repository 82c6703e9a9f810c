import { Button, Form, Modal } from "react-bootstrap";
import { words } from "../words";
import type { Bench, Scale, Step } from "./state";

interface Props {
  bench: Bench;
  set: (change: Partial<Bench>) => void;
  onClose: () => void;
}

const DIAL_LIMITS = [1, 4, 8, 15, 30, 60, 120, 240, 480, 900];

/** How this body's dials are divided, where they end, and which numbers the sum is done with. */
export function BodyRules({ bench, set, onClose }: Props) {
  return (
    <Modal show onHide={onClose} centered aria-labelledby="body-title">
      <Modal.Header closeButton closeLabel={words.keys.close}>
        <Modal.Title id="body-title">{words.bench.body}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        <Form.Group controlId="body-step">
          <Form.Label>{words.bench.stepsLabel}</Form.Label>
          <Form.Select value={bench.step} onChange={(event) => set({ step: event.target.value as Step })}>
            {(["third", "half", "full"] as const).map((step) => (
              <option key={step} value={step}>
                {words.bench.steps[step]}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="body-dial">
          <Form.Label>{words.bench.dialLimit}</Form.Label>
          <Form.Select value={bench.dialLimit} onChange={(event) => set({ dialLimit: Number(event.target.value) })}>
            {DIAL_LIMITS.map((limit) => (
              <option key={limit} value={limit}>
                {limit} s
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <fieldset>
          <legend className="form-label">{words.bench.counting}</legend>
          {(["exact", "as_marked"] as const).map((scale: Scale) => (
            <Form.Check
              key={scale}
              type="radio"
              name="scale"
              id={`scale-${scale}`}
              className="choice"
              label={
                <>
                  <strong>{words.bench.scales[scale]}</strong> <span>{words.bench.scaleWhy[scale]}</span>
                </>
              }
              checked={bench.scale === scale}
              onChange={() => set({ scale })}
            />
          ))}
        </fieldset>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="signal" onClick={onClose}>
          {words.keys.close}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
