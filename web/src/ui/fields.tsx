import { Form } from "react-bootstrap";

export function TimeField(props: { id: string; label: string; value: string; onValue: (value: string) => void }) {
  return (
    <Form.Group controlId={props.id}>
      <Form.Label>{props.label}</Form.Label>
      <Form.Control
        type="time"
        value={props.value}
        onChange={(event) => {
          if (event.target.value) props.onValue(event.target.value);
        }}
      />
    </Form.Group>
  );
}

interface PickProps {
  id: string;
  label: string;
  value: string;
  choices: readonly string[];
  said: Record<string, string>;
  onValue: (value: string) => void;
}

export function PickField({ id, label, value, choices, said, onValue }: PickProps) {
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Select value={value} onChange={(event) => onValue(event.target.value)}>
        {choices.map((choice) => (
          <option key={choice} value={choice}>
            {said[choice]}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}
