import type { ReactNode } from "react";
import { Button } from "react-bootstrap";
import type { Exposure } from "../../questions/bench";
import { type Laid, settingsOf } from "../../state/bench";
import { words } from "../../words";
import {
  markText,
  roughTime,
  saidStops,
  shortStops,
  signedStops,
  sumTime,
  timeParts,
  timeText,
} from "../../words/times";
import { residueText } from "./residueText";
import "./answer.css";

interface Props {
  answer: Exposure;
  laid: Laid;
}

interface AnswerProps extends Props {
  stale: boolean;
  /** What the last frame taught is let go. */
  onForget: () => void;
  children?: ReactNode;
}

/** The time to set, what it costs where it was decided, and how sure the sum is. */
export function Answer({ answer, laid, stale, onForget, children }: AnswerProps) {
  const { correction } = laid.bench;
  const mark = answer.dial_mark;
  const say = words.bench;
  if (answer.turning) return <Turning turning={answer.turning} laid={laid} stale={stale} />;
  const decided = isDecided(answer);
  const sure = say.sure(
    stopsText(answer.sure_within_stops),
    roughTime(answer.from_seconds),
    roughTime(answer.to_seconds),
  );
  return (
    <div className="answer" data-stale={stale || undefined}>
      <h2>{mark ? say.set : say.hold}</h2>
      <p className="answer-time" aria-live="polite" data-testid="answer-time">
        {mark ? <BigMark label={mark} /> : <BigTime seconds={answer.set_seconds} />}
      </p>
      {decided && (
        <p className="answer-cost" data-testid="answer-cost">
          {costText(answer.residue_stops, timeText(answer.seconds))}
        </p>
      )}
      <p className="answer-sure">
        {!mark && (
          <>
            {say.bulb}
            <span className="at-desk">{say.dialEnds(timeText(laid.dialLimit))}</span>.{" "}
          </>
        )}
        {sure}
        {mark && !decided && isRounded(mark, answer.seconds) && (
          <span className="quiet"> {say.exactly(timeText(answer.seconds))}</span>
        )}
      </p>
      {correction && (
        <p className="answer-correction">
          {correction.name}{" "}
          <Button variant="link" className="plain-link" onClick={onForget}>
            {words.purpose.forget}
          </Button>
        </p>
      )}
      {children}
    </div>
  );
}

/** A variable filter is on that nobody has turned yet: the times it can still give. */
function Turning({ turning, laid, stale }: { turning: NonNullable<Exposure["turning"]>; laid: Laid; stale: boolean }) {
  const say = words.bench;
  const open = laid.stack.find((glass) => glass.open !== undefined);
  const end = (mark: string | null | undefined, seconds: number) => (mark == null ? timeText(seconds) : markText(mark));
  return (
    <div className="answer" data-stale={stale || undefined}>
      <h2>{say.set}</h2>
      <p className="answer-time answer-range" aria-live="polite" data-testid="answer-time">
        {say.between(end(turning.from_mark, turning.from_seconds), end(turning.to_mark, turning.to_seconds))}
      </p>
      <p className="answer-sure">{say.turnIt(open?.name ?? "")}</p>
    </div>
  );
}

function isDecided(answer: Exposure): boolean {
  return answer.steps.some((step) => step.kind === "chosen");
}

/** Whether a dial's mark reads otherwise than the time it stands for: 15 is 16 s. */
function isRounded(mark: string, seconds: number): boolean {
  return timeText(seconds) !== markText(mark);
}

function stopsText(stops: number): string {
  return stops.toFixed(1);
}

function costText(stops: number, right: string): string {
  const cost = residueText(stops);
  return cost === null ? words.bench.costsNothing(right) : words.bench.cost(cost, right);
}

/** The sum line by line. */
export function Sum({ answer, laid, stale }: Props & { stale: boolean }) {
  return (
    <details className="reckoning" data-stale={stale || undefined}>
      <summary>{words.bench.sum}</summary>
      <table className="sum">
        <tbody>
          {answer.steps.map((step, place) => (
            <tr key={place}>
              <th scope="row">{stepName(step, laid)}</th>
              <td>{place > 0 && sumStops(step)}</td>
              <td>
                {place === 0 && laid.bench.meter === "camera"
                  ? laid.bench.shutter
                  : sumTime(step.seconds, laid.dialLimit)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

function sumStops({ kind, stops }: Exposure["steps"][number]): string {
  if (kind === "in_reading") return "0";
  return kind === "correction" ? saidStops(stops) : signedStops(stops);
}

function BigTime({ seconds }: { seconds: number }) {
  return timeParts(seconds).map((part) => (
    <span key={part.unit} className="answer-part">
      {part.value}
      <small>{part.value.startsWith("1/") ? "" : part.unit}</small>
    </span>
  ));
}

function BigMark({ label }: { label: string }) {
  return (
    <span className="answer-part">
      {label}
      <small>{label.includes("/") ? "" : "s"}</small>
    </span>
  );
}

function stepName(step: Exposure["steps"][number], laid: Laid): string {
  const glass = step.glass == null ? undefined : laid.stack[step.glass]?.name;
  const { aperture, iso } = laid.bench;
  const shot = settingsOf(laid);
  const say = words.bench.stepNames;
  switch (step.kind) {
    case "reading":
      return say.reading;
    case "measured":
      return say.measured(glass ?? "");
    case "in_reading":
      return say.in_reading(glass ?? "");
    case "turned": {
      const now = step.glass == null ? undefined : laid.stack[step.glass];
      const then = laid.through.find(({ id }) => id === now?.id);
      return say.turned(glass ?? "", shortStops(then?.stops ?? 0), shortStops(now?.stops ?? 0));
    }
    case "aperture":
      return say.aperture(`f/${aperture}`, `f/${shot.aperture}`);
    case "iso":
      return say.iso(iso, shot.iso);
    case "light":
      return step.stops < 0 ? say.lightRises : say.lightFalls;
    case "film":
      return say.film(laid.film?.name ?? "");
    case "chosen":
      return say.chosen(timeText(step.seconds));
    default:
      return glass ?? step.name;
  }
}
