import { Button, Form } from "react-bootstrap";
import { words } from "../../words";
import type { TypedTime } from "./typedTime";

/** The field of a typed time, with the question where it can be read more than one way. */
export function TimeText({ id, label, time }: { id: string; label: string; time: TypedTime }) {
  const several = time.meanings.length > 1;
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        autoComplete="off"
        maxLength={24}
        value={time.text}
        isInvalid={time.problem !== null}
        aria-describedby={`${id}-said`}
        onChange={(event) => time.type(event.target.value)}
      />
      <div id={`${id}-said`} aria-live="polite" className="time-said">
        {time.problem && <p className="fault mb-0">{time.problem}</p>}
        {several && <p className="mb-0">{words.entry.which}</p>}
        {several &&
          time.meanings.map((meaning) => (
            <Button key={meaning.label} variant="quiet" size="sm" onClick={() => time.choose(meaning)}>
              {meaning.label}
            </Button>
          ))}
      </div>
    </Form.Group>
  );
}
