import type { ReactNode } from "react";
import { Button } from "react-bootstrap";
import type { Exposure } from "../../questions/bench";
import type { Laid } from "../../state/bench";
import { words } from "../../words";
import { markText, timeParts, timeText } from "../../words/times";
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

/** The time to set, what it costs where it was decided, how sure the sum is, and what it were in steady light. */
export function Answer({ answer, laid, stale, onForget, children }: AnswerProps) {
  const { correction } = laid.bench;
  const mark = answer.dial_mark;
  const say = words.bench;
  if (answer.turning) return <Turning turning={answer.turning} laid={laid} stale={stale} />;
  const decided = isDecided(answer);
  const steady = steadySeconds(answer);
  return (
    <div className="answer" data-stale={stale || undefined}>
      <h2 className="visually-hidden">{mark ? say.set : say.hold}</h2>
      <p className="answer-time" aria-live="polite" aria-atomic="true" data-testid="answer-time">
        {mark ? <BigMark label={mark} /> : <BigTime seconds={answer.set_seconds} />}
      </p>
      <p className="answer-sure">
        {mark ? say.setMark(markText(mark)) : say.bulb}
        {!mark && <span className="at-desk">{say.dialEnds(timeText(laid.dialLimit))}</span>},{" "}
        {say.sure(stopsText(answer.sure_within_stops))}
      </p>
      <p className="answer-quiet quiet">
        {decided ? (
          <span data-testid="answer-cost">{costText(answer.residue_stops, timeText(answer.seconds))}</span>
        ) : steady !== null ? (
          say.inSteadyLight(timeText(steady))
        ) : (
          mark && isRounded(mark, answer.seconds) && say.exactly(timeText(answer.seconds))
        )}
      </p>
      {correction && (
        <p className="answer-correction">
          {correction.name}{" "}
          <Button variant="quiet" onClick={onForget}>
            {words.purpose.forget}
          </Button>
        </p>
      )}
      {children}
    </div>
  );
}

/** What the sum came to if the light stood still [s]; null where it does, or where film's law comes after it. */
function steadySeconds({ steps }: Exposure): number | null {
  const at = steps.findIndex(({ kind }) => kind === "light");
  const after = steps.slice(at + 1).filter(({ kind }) => kind !== "chosen");
  const before = steps[at - 1];
  if (at < 1 || after.length > 0 || !before || Math.abs(steps[at]?.stops ?? 0) < LEAST_MOVE) return null;
  return before.seconds;
}

/** A smaller move of the light is not worth a line [stops]. */
const LEAST_MOVE = 0.05;

/** A variable filter is on that nobody has turned yet: the times it can still give. */
function Turning({ turning, laid, stale }: { turning: NonNullable<Exposure["turning"]>; laid: Laid; stale: boolean }) {
  const say = words.bench;
  const open = laid.stack.find((glass) => glass.open !== undefined);
  const end = (mark: string | null | undefined, seconds: number) => (mark == null ? timeText(seconds) : markText(mark));
  return (
    <div className="answer" data-stale={stale || undefined}>
      <h2 className="visually-hidden">{say.set}</h2>
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
