import { Button, Form } from "react-bootstrap";
import type { Exposure } from "../../questions/bench";
import { remember, useHabits } from "../../state/habits";
import { words } from "../../words";
import { markText, signedStops, timeText } from "../../words/times";

interface Props {
  answer: Exposure;
  chosen: number | null;
  stale: boolean;
  /** Null goes back to the time that was worked out. */
  onChoose: (seconds: number | null) => void;
  /** Uses the chosen time at another aperture; null where the lens has none that is nearer. */
  onAperture: ((mark: string) => void) | null;
  onType: () => void;
}

/** Times that are easier to set or to count, with what each costs: a tap uses it. */
export function RoundTimes({ answer, chosen, stale, onChoose, onAperture, onType }: Props) {
  const say = words.round;
  const fits = chosen === null ? null : answer.fits_at;
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
          <strong>{time.mark ? markText(time.mark) : timeText(time.seconds)}</strong>
          <span>{say.cost(signedStops(time.stops))}</span>
        </Button>
      ))}
      {chosen !== null && (
        <Button variant="quiet" className="round-time" disabled={stale} onClick={() => onChoose(null)}>
          <strong>{timeText(answer.seconds)}</strong>
          <span>{say.exact}</span>
        </Button>
      )}
      {fits && onAperture && (
        <Button variant="quiet" className="round-time" disabled={stale} onClick={() => onAperture(fits.aperture)}>
          <strong>{say.at(timeText(answer.set_seconds), fits.aperture)}</strong>
          <span>{Math.abs(fits.stops) < WORTH_SAYING ? say.right : say.cost(signedStops(fits.stops))}</span>
        </Button>
      )}
      <Button variant="quiet" className="round-time" onClick={onType}>
        <strong>{answer.rounded.length === 0 && chosen === null ? say.anotherLong : say.another}</strong>
      </Button>
    </div>
  );
}

/** What is left over that nobody can tell from nothing [stops]. */
const WORTH_SAYING = 0.05;
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
