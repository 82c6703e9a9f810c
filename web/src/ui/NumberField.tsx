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

/**
 * A number that may be left out. What cannot be read as one stays as typed and changes nothing; a value that comes from
 * elsewhere takes the place of what was typed before it.
 */
export function KnownNumber({ id, label, value, onValue }: KnownProps) {
  const known = value ?? undefined;
  const [held, setHeld] = useState<{ text: string; stands: (number | undefined)[] }>({ text: "", stands: [] });
  // Once it has become what was typed, going back is a change from elsewhere.
  if (held.stands.length > 1 && held.stands[0] === known) setHeld({ ...held, stands: [known] });
  return (
    <NumberField
      id={id}
      label={label}
      value={held.stands.includes(known) ? held.text : String(known ?? "")}
      onChange={(text) => {
        const read = typed(text);
        const meant = text.trim() === "" || read !== undefined ? read : known;
        // Whoever takes no number away leaves it as it was; what was typed stands beside either.
        setHeld({ text, stands: [meant, known] });
        if (meant !== known) onValue(meant);
      }}
    />
  );
}
