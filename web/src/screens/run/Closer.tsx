import { Button, Form, ToggleButton, ToggleButtonGroup } from "react-bootstrap";
import { runWords } from "../../words/run";
import { type Device, remember, useHabits } from "../../state/habits";

const FAULTS: Device["fault"][] = ["none", "no_answer", "not_bulb", "drive", "electronic_shutter", "battery"];
const SPEEDS = [1, 10, 60];

/** Who opens and closes: a hand on a remote, or the simulated trigger that ships, for practice. */
export function Closer({ onTest }: { onTest: () => void }) {
  const { device: now } = useHabits();
  const say = runWords.device;
  const set = (change: Partial<typeof now>) => remember({ device: { ...now, ...change } });
  return (
    <div className="closer">
      <Form.Group className="choice-line">
        <span id="device-label">{say.label}</span>
        <ToggleButtonGroup
          type="radio"
          name="device"
          aria-labelledby="device-label"
          value={now.kind}
          onChange={(kind: "hand" | "simulated") => set({ kind, tested: false, ...(kind === "hand" && { speed: 1 }) })}
        >
          <ToggleButton id="device-hand" value="hand" variant="segment">
            {say.hand}
          </ToggleButton>
          <ToggleButton id="device-simulated" value="simulated" variant="segment">
            {say.simulated}
          </ToggleButton>
        </ToggleButtonGroup>
      </Form.Group>
      {now.kind === "simulated" && (
        <div className="pair">
          <Form.Group controlId="device-speed">
            <Form.Label>{say.speed}</Form.Label>
            <Form.Select value={now.speed} onChange={(event) => set({ speed: Number(event.target.value) })}>
              {SPEEDS.map((speed) => (
                <option key={speed} value={speed}>
                  {say.times(speed)}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="device-fault">
            <Form.Label>{say.fault}</Form.Label>
            <Form.Select
              value={now.fault}
              onChange={(event) => set({ fault: event.target.value as typeof now.fault, tested: false })}
            >
              {FAULTS.map((fault) => (
                <option key={fault} value={fault}>
                  {say.faults[fault]}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
        </div>
      )}
      <div className="closer-test">
        <Button variant="quiet" onClick={onTest}>
          {say.test}
        </Button>
        <span className="quiet">{now.tested ? say.tested(now.delay.toFixed(1)) : say.untested}</span>
      </div>
    </div>
  );
}
