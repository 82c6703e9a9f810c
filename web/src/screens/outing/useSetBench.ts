import { useLocation } from "wouter";
import type { Light, Swaps } from "../../questions/light";
import type { Bench, Glass, Laid, Move } from "../../state/bench";
import { type Outing, useOutings } from "../../state/outings";
import { wallTime } from "../../words/zone";
import { evOf, stretchAt } from "./morning";

type Stretch = Swaps["stretches"][number];

/** Makes the bench ready for a minute of the plan, and goes there. */
export function useSetBench(outing: Outing, laid: Laid | null, move: (move: Move) => void, swaps: Swaps | undefined) {
  const [, go] = useLocation();
  const { choose } = useOutings();
  return (point: Light["points"][number]) => {
    if (!laid) return;
    const ms = Date.parse(point.at);
    const stretch = stretchAt(swaps, ms);
    const turning = laid.bag.filter(({ id, kind }) => kind === "variable" && stretch?.glass?.includes(id));
    choose(outing.id);
    move({
      do: "set",
      change: {
        meter: "hand",
        ev100: evOf(point),
        meteredAt: null,
        expectedSd: point.sd_stops,
        earlier: [],
        before: [],
        through: [],
        floating: "time",
        targetSeconds: null,
        useOuting: true,
        lightAt: wallTime(ms, outing.zone),
        turned: { ...laid.bench.turned, ...turnedTo(turning, stretch, ms) },
        ...(stretch?.glass && { on: stretch.glass, shotAperture: stretch.aperture, shotIso: stretch.iso }),
      } satisfies Partial<Bench>,
    });
    go("/");
  };
}

const STEP_MS = 60_000;

/** What the rings are turned to at a minute of the plan: the first as far as it goes, then the next. */
function turnedTo(turning: readonly Glass[], stretch: Stretch | undefined, ms: number): Record<string, number> {
  if (!stretch) return {};
  const step = Math.round((ms - Date.parse(stretch.start)) / STEP_MS);
  let left = stretch.turns[Math.min(step, stretch.turns.length - 1)] ?? 0;
  return Object.fromEntries(
    turning.map(({ id, low, high }) => {
      const by = Math.min(left, high - low);
      left -= by;
      return [id, low + by];
    }),
  );
}
