import { Form } from "react-bootstrap";
import { logWords } from "../../words/log";
import { changeFrame, type Frame } from "../../state/frames";

type Conditions = NonNullable<Frame["conditions"]>;

const NUMBERS = [
  ["focal_mm", 1, 3000],
  ["kelvin", 1500, 25_000],
  ["rims_mm", 0, 300],
  ["swell_m", 0, 20],
  ["period_s", 0.3, 30],
  ["wind_m_s", 0, 60],
  ["celsius", -40, 50],
] as const;

/** What it was like: filled in by bench and outing, put right by hand; empty is unknown. */
export function Conditions({ frame }: { frame: Frame }) {
  const say = logWords.conditions;
  const held: Conditions = frame.conditions ?? {};
  const change = (part: Conditions) =>
    void changeFrame(frame.id, (now) => ({ ...now, conditions: { ...now.conditions, ...part } }));
  const number = (name: (typeof NUMBERS)[number][0], low: number, high: number, text: string) => {
    const value = Number(text.replace(",", "."));
    if (text.trim() === "") change({ [name]: null });
    else if (value >= low && value <= high) change({ [name]: value });
  };
  return (
    <details className="conditions" open={frame.conditions?.place != null}>
      <summary>{say.title}</summary>
      <div className="conditions-fields">
        <Form.Group controlId="condition-place" className="conditions-place">
          <Form.Label>{say.place}</Form.Label>
          <Form.Control
            defaultValue={held.place ?? ""}
            maxLength={60}
            onChange={(event) => change({ place: event.target.value.trim() || null })}
          />
        </Form.Group>
        {NUMBERS.map(([name, low, high]) => (
          <Form.Group key={name} controlId={`condition-${name}`}>
            <Form.Label>{say[name]}</Form.Label>
            <Form.Control
              inputMode="decimal"
              defaultValue={held[name] ?? ""}
              onChange={(event) => number(name, low, high, event.target.value)}
            />
          </Form.Group>
        ))}
        <Form.Check
          id="condition-monochrome"
          label={say.monochrome}
          checked={held.monochrome ?? false}
          onChange={(event) => change({ monochrome: event.target.checked || null })}
        />
      </div>
    </details>
  );
}
