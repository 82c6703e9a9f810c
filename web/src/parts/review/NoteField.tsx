import { useEffect, useRef, useState } from "react";
import { Form } from "react-bootstrap";
import { changeFrame, type Frame } from "../../state/frames";
import { runWords } from "../../words/run";
import { logWords } from "../../words/log";

/** Hands that rest for so long have written something worth keeping [ms]. */
const RESTS_MS = 600;

/** The note of a frame, kept while it is typed: leaving, closing and losing power find it written. */
export function NoteField({ frame }: { frame: Frame }) {
  const { id } = frame;
  const [note, setNote] = useState(frame.note);
  const unkept = useRef<string | null>(null);
  useEffect(() => {
    const keep = () => {
      const text = unkept.current;
      unkept.current = null;
      if (text !== null) void changeFrame(id, (now) => (now.note === text ? undefined : { ...now, note: text }));
    };
    const timer = window.setTimeout(keep, RESTS_MS);
    window.addEventListener("pagehide", keep);
    return () => {
      window.clearTimeout(timer);
      window.removeEventListener("pagehide", keep);
    };
  }, [id, note]);
  // What is typed when the field goes is kept as well.
  useEffect(
    () => () => {
      const text = unkept.current;
      if (text !== null) void changeFrame(id, (now) => ({ ...now, note: text }));
    },
    [id],
  );
  return (
    <Form.Group controlId="frame-note">
      <Form.Label>{logWords.note}</Form.Label>
      <Form.Control
        as="textarea"
        rows={2}
        maxLength={2000}
        placeholder={runWords.notePlaceholder}
        value={note}
        onChange={(event) => {
          unkept.current = event.target.value;
          setNote(event.target.value);
        }}
      />
    </Form.Group>
  );
}
