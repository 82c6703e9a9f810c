import { Button } from "react-bootstrap";
import type { Frame } from "../../state/frames";
import { correct, end } from "../../state/running";
import { runWords } from "../../words/run";
import { clockText } from "../../words/times";
import { TimeForm } from "./TimeForm";
import type { Watch } from "./useWatch";

/** What is not sure about the time, and the question when nobody watched. */
export function TimeWords({ watch, frame, elapsed }: { watch: Watch; frame: Frame; elapsed: number }) {
  const say = runWords.truth;
  const unwatched = watch.source === "wall" && frame.run?.watched !== false;
  const speed = frame.run?.speed ?? 1;
  if (unwatched)
    return (
      <div className="run-truth" role="alert">
        <p>{say.nobody(clockText(elapsed))}</p>
        <div className="run-foot">
          <Button variant="quiet" onClick={() => void correct(frame, elapsed / speed, UNWATCHED_S)}>
            {say.right}
          </Button>
          <TimeForm
            digits
            set={runWords.openedAgoSet}
            label={runWords.openedAgoField}
            hint={runWords.openedAgo}
            onSet={(seconds) => void correct(frame, seconds / speed, UNWATCHED_S)}
          />
          <Button variant="quiet" onClick={() => void end(frame, "hand", frame.answer.set_seconds, null)}>
            {say.closedThen}
          </Button>
        </div>
      </div>
    );
  const jumpText = { none: null, slept: say.slept, clock_changed: say.changed, unknown: say.unknown }[watch.jump];
  const sure = frame.run?.uncertain_seconds ?? SURE_S;
  // That a clock runs as it should is not worth a line.
  if (!jumpText && sure <= SURE_S) return null;
  return (
    <p className="quiet run-sure">
      {jumpText ? `${jumpText} ` : ""}
      {say.sure(String(sure))}
    </p>
  );
}

/** How well a time is known that this page has counted [s]. */
const SURE_S = 0.2;
/** How well a time is known that nobody watched [s]. */
const UNWATCHED_S = 5;
