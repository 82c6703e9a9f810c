import { Form, ToggleButton, ToggleButtonGroup } from "react-bootstrap";
import { ClockField } from "./ClockField";

export function TimeField(props: { id: string; label: string; value: string; onValue: (value: string) => void }) {
  return (
    <Form.Group controlId={props.id}>
      <Form.Label>{props.label}</Form.Label>
      <ClockField
        value={props.value}
        onValue={(value) => {
          if (value) props.onValue(value);
        }}
      />
    </Form.Group>
  );
}

interface PickProps {
  id: string;
  label: string;
  value: string;
  choices: readonly string[];
  labels: Record<string, string>;
  onValue: (value: string) => void;
}

export function PickField({ id, label, value, choices, labels, onValue }: PickProps) {
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Select value={value} onChange={(event) => onValue(event.target.value)}>
        {choices.map((choice) => (
          <option key={choice} value={choice}>
            {labels[choice]}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}

interface ChoiceProps<T> {
  name: string;
  label: string;
  /** Null while nothing is chosen. */
  value: T | null;
  choices: readonly (readonly [T, string])[];
  onValue: (value: T) => void;
  /** Beside its label on one line, or under it over the whole width. */
  wide?: boolean;
}

/** One of a few, all of them in view. */
export function Choice<T extends string | number>({ name, label, value, choices, onValue, wide }: ChoiceProps<T>) {
  return (
    <Form.Group className={wide ? "choice-wide" : "choice-line"}>
      <span id={`${name}-label`}>{label}</span>
      <ToggleButtonGroup
        type="radio"
        name={name}
        className={wide ? "segments" : ""}
        aria-labelledby={`${name}-label`}
        value={value}
        onChange={(next: T) => onValue(next)}
      >
        {choices.map(([choice, label]) => (
          <ToggleButton key={choice} id={`${name}-${choice}`} value={choice} variant="segment">
            {label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Form.Group>
  );
}
