import { useState } from "react";
import { Form } from "react-bootstrap";
import { words } from "../../words";
import type { Frame } from "../../state/frames";
import { useKeepFrame } from "../../state/useKeepFrame";

/** The note of a frame, kept when one leaves it. */
export function NoteField({ frame }: { frame: Frame }) {
  const [note, setNote] = useState(frame.note);
  const keep = useKeepFrame();
  return (
    <Form.Group controlId="frame-note">
      <Form.Label>{words.log.note}</Form.Label>
      <Form.Control
        as="textarea"
        rows={2}
        maxLength={2000}
        placeholder={words.run.notePlaceholder}
        value={note}
        onChange={(event) => setNote(event.target.value)}
        onBlur={() => note !== frame.note && keep({ ...frame, note })}
      />
    </Form.Group>
  );
}
