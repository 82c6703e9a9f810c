import { Button, Form } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { type Laid, wasOn } from "../../state/bench";
import { words } from "../../words";

interface Props {
  laid: Laid;
  onToggle: (id: string) => void;
  onClose: () => void;
}

/** Which filters were on the lens while metering: the meter has seen through them already. */
export function MeteredWith({ laid, onToggle, onClose }: Props) {
  const say = words.bench.meteredWith;
  return (
    <Modal show onHide={onClose} centered aria-labelledby="metered-with-title">
      <Modal.Header closeButton closeLabel={words.entry.cancel}>
        <Modal.Title id="metered-with-title">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>{say.why}</p>
        {laid.bag
          .filter((glass) => glass.kind !== "graduated")
          .map((glass) => (
            <Form.Check
              key={glass.id}
              id={`metered-with-${glass.id}`}
              className="metered-with"
              label={glass.name}
              checked={wasOn(laid, glass)}
              onChange={() => onToggle(glass.id)}
            />
          ))}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="signal" onClick={onClose}>
          {say.done}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
