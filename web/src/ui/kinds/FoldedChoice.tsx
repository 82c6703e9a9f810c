import { Form } from "react-bootstrap";

interface Props<T extends string> {
  label: string;
  value: T;
  choices: readonly (readonly [T, string])[];
  onValue: (value: T) => void;
}

/** A choice folded into its bold word and a caret. */
export function FoldedChoice<T extends string>({ label, value, choices, onValue }: Props<T>) {
  return (
    <Form.Select
      className="fold"
      aria-label={label}
      value={value}
      onChange={(event) => onValue(event.target.value as T)}
    >
      {choices.map(([choice, text]) => (
        <option key={choice} value={choice}>
          {text}
        </option>
      ))}
    </Form.Select>
  );
}
