import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { typedSeconds } from "../../ui/typed";

interface Props {
  label: string;
  hint: string;
  /** What the button says. */
  set: string;
  /** Only seconds are asked for: a phone shows digits. */
  digits?: boolean;
  onSet: (seconds: number) => void;
}

/** A time said while the shutter is open: "90", "2:00" or "1:02:30". */
export function TimeForm({ label, hint, set, digits = false, onSet }: Props) {
  const [text, setText] = useState("");
  const seconds = typedSeconds(text);
  return (
    <Form
      className="opened-ago"
      onSubmit={(event) => {
        event.preventDefault();
        if (seconds === null) return;
        onSet(seconds);
        setText("");
      }}
    >
      <Form.Control
        autoComplete="off"
        inputMode={digits ? "numeric" : "text"}
        aria-label={label}
        placeholder={hint}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Button variant="quiet" type="submit" disabled={seconds === null}>
        {set}
      </Button>
    </Form>
  );
}
