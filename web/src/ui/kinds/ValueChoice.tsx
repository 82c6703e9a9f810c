import { useId } from "react";
import { Form } from "react-bootstrap";

interface Props<T extends string | number> {
  caption: string;
  value: T;
  choices: readonly (readonly [T, string])[];
  onValue: (value: T) => void;
}

/** One of a few as a value in words, on its bar. */
export function ValueChoice<T extends string | number>({ caption, value, choices, onValue }: Props<T>) {
  const id = useId();
  return (
    <div className="value value-words value-choice">
      <span className="value-staff" aria-hidden="true" />
      <span className="value-said">
        <Form.Select
          id={id}
          className="fold value-number"
          value={String(value)}
          onChange={(event) => {
            const chosen = choices.find(([choice]) => String(choice) === event.target.value);
            if (chosen) onValue(chosen[0]);
          }}
        >
          {choices.map(([choice, text]) => (
            <option key={choice} value={String(choice)}>
              {text}
            </option>
          ))}
        </Form.Select>
        <label className="value-label" htmlFor={id}>
          {caption}
        </label>
      </span>
    </div>
  );
}
