import { Button, Form } from "react-bootstrap";
import type { Exposure } from "../../questions/bench";
import { remember, useHabits } from "../../state/habits";
import { words } from "../../words";
import { exactTime, markText, signedStops, timeText } from "../../words/times";

interface Props {
  answer: Exposure;
  chosen: number | null;
  stale: boolean;
  /** Null goes back to the time that was worked out. */
  onChoose: (seconds: number | null) => void;
  onType: () => void;
}

/** Times that are easier to set or to count, with what each costs: a tap uses it. */
export function RoundTimes({ answer, chosen, stale, onChoose, onType }: Props) {
  const say = words.round;
  return (
    <div className="round-times" role="group" aria-label={say.title}>
      {answer.rounded.map((time) => (
        <Button
          key={time.seconds}
          variant="quiet"
          className="round-time"
          disabled={stale}
          aria-pressed={chosen !== null && Math.abs(chosen - time.seconds) < 1e-6}
          onClick={() => onChoose(time.seconds)}
        >
          <strong>{time.mark ? markText(time.mark) : exactTime(time.seconds)}</strong>
          <span>{say.cost(signedStops(time.stops))}</span>
        </Button>
      ))}
      {chosen !== null && (
        <Button variant="quiet" className="round-time" disabled={stale} onClick={() => onChoose(null)}>
          <strong>{timeText(answer.seconds)}</strong>
          <span>{say.exact}</span>
        </Button>
      )}
      <Button variant="quiet" className="round-time" onClick={onType}>
        <strong>{answer.rounded.length === 0 && chosen === null ? say.anotherLong : say.another}</strong>
      </Button>
    </div>
  );
}

const FINENESS = [5, 10, 15, 30, 60];

/** How finely one's timer counts: asked once, remembered. */
export function TimerFineness() {
  const { timerSeconds } = useHabits();
  return (
    <Form.Group controlId="timer-fineness" className="timer-fineness">
      <Form.Label>{words.round.fineness}</Form.Label>
      <Form.Select
        value={timerSeconds ?? ""}
        onChange={({ target }) => remember({ timerSeconds: target.value === "" ? null : Number(target.value) })}
      >
        <option value="">{words.round.asSpoken}</option>
        {FINENESS.map((seconds) => (
          <option key={seconds} value={seconds}>
            {seconds === 60 ? words.round.wholeMinutes : timeText(seconds)}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}
