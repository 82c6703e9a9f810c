import { Form } from "react-bootstrap";

interface Props<T extends string> {
  label: string;
  value: T;
  choices: readonly (readonly [T, string])[];
  /** More of them, under headings. */
  groups?: readonly { title: string; choices: readonly (readonly [T, string])[] }[];
  onValue: (value: T) => void;
}

/** A choice folded into its bold word and a caret. */
export function FoldedChoice<T extends string>({ label, value, choices, groups = [], onValue }: Props<T>) {
  return (
    <Form.Select
      className="fold"
      aria-label={label}
      value={value}
      onChange={(event) => onValue(event.target.value as T)}
    >
      {choices.map(option)}
      {groups.map(({ title, choices: grouped }) => (
        <optgroup key={title} label={title}>
          {grouped.map(option)}
        </optgroup>
      ))}
    </Form.Select>
  );
}

function option([choice, text]: readonly [string, string]) {
  return (
    <option key={choice} value={choice}>
      {text}
    </option>
  );
}
