import { useState } from "react";
import { Form } from "react-bootstrap";
import { typed } from "./typed";

/** A field of one number, empty for unknown. */
export function NumberField(props: { id: string; label: string; value: string; onChange: (text: string) => void }) {
  return (
    <Form.Group controlId={props.id}>
      <Form.Label>{props.label}</Form.Label>
      <Form.Control
        inputMode="decimal"
        autoComplete="off"
        value={props.value}
        onChange={(event) => props.onChange(event.target.value)}
      />
    </Form.Group>
  );
}

interface KnownProps {
  id: string;
  label: string;
  value: number | null | undefined;
  onValue: (value: number | undefined) => void;
}

/** A number that may be left out. What cannot be read as one stays as typed and changes nothing. */
export function KnownNumber({ id, label, value, onValue }: KnownProps) {
  const [text, setText] = useState(value == null ? "" : String(value));
  return (
    <NumberField
      id={id}
      label={label}
      value={text}
      onChange={(next) => {
        setText(next);
        if (next.trim() === "" || typed(next) !== undefined) onValue(typed(next));
      }}
    />
  );
}
