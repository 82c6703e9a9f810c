import { Button } from "react-bootstrap";
import { reviewOf, useReviewed } from "../../questions/log";
import type { Bench, Laid } from "../../state/bench";
import { type Frame, useFinished } from "../../state/frames";
import { remember, useHabits } from "../../state/habits";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";

interface Props {
  laid: Laid;
  set: (change: Partial<Bench>) => void;
}

/** For so long the frame before still says something of the next picture [ms]. */
const SAYS_FOR = 12 * 3_600_000;

/** What the last frame says of the one filter that is on again: counted for the next picture where somebody says so. */
export function LastFinding({ laid, set }: Props) {
  const frames = useFinished();
  const { findingLeft } = useHabits();
  const now = useNow(60_000);
  const last = lastOf(frames, now);
  const asked = last !== null && last.id !== findingLeft && laid.bench.correction === null;
  const found = useReviewed(asked ? reviewOf(last) : null).answer?.finding;
  if (!asked || !found || !isStillSo(found.glass, last, laid)) return null;
  const say = words.finding;
  const name = say.name(found.name, Math.abs(found.stops).toFixed(1), found.stops > 0);
  return (
    <p className="last-finding">
      {name}.{" "}
      <Button
        variant="link"
        className="plain-link"
        onClick={() => set({ correction: { stops: found.stops, name, because: "filter" } })}
      >
        {say.use}
      </Button>{" "}
      <Button variant="link" className="plain-link" onClick={() => remember({ findingLeft: last.id })}>
        {say.leave}
      </Button>
    </p>
  );
}

/** The last frame of these hours that somebody has judged. */
function lastOf(frames: readonly Frame[], now: number): Frame | null {
  const recent = frames.filter(({ state, opened_at }) => {
    const age = now - Date.parse(opened_at);
    return state === "closed" && age >= 0 && age < SAYS_FOR;
  });
  const last = recent.toSorted((a, b) => Date.parse(b.opened_at) - Date.parse(a.opened_at))[0];
  return last?.review?.error_stops == null ? null : last;
}

/** Whether a filter is on for the shot alone, and is reckoned as it was for that frame: what was measured since counts. */
function isStillSo(id: string, then: Frame, { stack, through }: Laid): boolean {
  const on = stack.find((glass) => glass.id === id);
  const was = then.stack.find((glass) => glass.id === id);
  return on !== undefined && !through.some((glass) => glass.id === id) && (on.offset ?? 0) === (was?.offset ?? 0);
}
