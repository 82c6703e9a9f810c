import type { ReactNode } from "react";
import { Form } from "react-bootstrap";
import { Refused } from "../api/client";
import { words } from "../words";

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

export function Said({ error, children }: { error: Error | null; children: ReactNode }) {
  if (error) {
    return (
      <p className="fault" role="alert">
        {error instanceof Refused ? error.message : words.trouble.unreachable}
      </p>
    );
  }
  return (
    <div className="extra-said" aria-live="polite">
      {children}
    </div>
  );
}
