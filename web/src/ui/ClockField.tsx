import { useState } from "react";
import { Form } from "react-bootstrap";
import { clockOf, dateOf, hoursCounted, readClock, readDate } from "../words/clock";

interface Props {
  id?: string;
  label?: string;
  /** As it is kept: "17:05", "2027-04-17"; empty is none. */
  value: string;
  onValue: (value: string) => void;
  describedBy?: string;
}

interface Reading {
  read: (text: string) => string | null;
  shown: (value: string) => string;
  hint: string;
}

/**
 * The browser's own fields show a time and a date by the browser's language, whatever the application shows. These are
 * plain text; what cannot be read yet stays as typed, is marked, and changes nothing.
 */
function TypedField({ id, label, value, onValue, describedBy, read, shown, hint }: Props & Reading) {
  const [held, setHeld] = useState<string | null>(null);
  const unread = held !== null && read(held) === null;
  return (
    <Form.Control
      id={id}
      type="text"
      autoComplete="off"
      aria-label={label}
      aria-describedby={describedBy}
      aria-invalid={unread || undefined}
      isInvalid={unread && held.trim().length >= hint.length - 1}
      placeholder={hint}
      title={unread ? hint : undefined}
      value={held ?? (value === "" ? "" : shown(value))}
      onChange={({ target }) => {
        setHeld(target.value);
        const meant = read(target.value);
        if (meant !== null && meant !== value) onValue(meant);
        if (target.value === "" && value !== "") onValue("");
      }}
      onBlur={() => {
        if (!unread) setHeld(null);
      }}
    />
  );
}

/** A time of day. */
export function ClockField(props: Props) {
  return <TypedField {...props} read={readClock} shown={clockOf} hint={hoursCounted() === 12 ? "5:05 pm" : "17:05"} />;
}

/** A day. */
export function DateField(props: Props) {
  return <TypedField {...props} read={readDate} shown={dateOf} hint="17 Apr 2027" />;
}
