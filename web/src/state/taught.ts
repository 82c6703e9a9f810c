import type { Schemas } from "../api/client";
import type { Laid } from "./bench";
import type { Frame } from "./frames";

/** What a phone saw of a frame's light. */
export type Lit = Schemas["LightStoryAnswer"];

/**
 * What a reviewed frame teaches the next one, whose time is worked out anew, but for `decided` stops that will be decided
 * again; null while nobody has said how it came out, and for film, whose law bends it.
 */
export function taughtBy(frame: Frame, decided = 0, watched: Lit | null = null): Schemas["AgainInput"] | null {
  const error_stops = frame.review?.error_stops;
  if (error_stops == null || frame.run?.film != null || frame.state !== "closed") return null;
  return {
    error_stops,
    // What the sky did beside the clock, where a phone watched it.
    late_stops: watched?.came_stops ?? frame.error?.stops ?? 0,
    // A frame from a file or by hand was neither decided on the way nor corrected, as far as is known.
    longer_stops: (frame.run?.bias_stops ?? 0) - decided,
    earlier_stops: frame.run?.correction_stops ?? 0,
  };
}

/** For so long the frame before still says something of the next picture [ms]. */
const FINDING_MS = 12 * 3_600_000;
/** Less than this is nobody's fault [stops]. */
const WORTH_SAYING = 0.3;

/**
 * The last frame and the one filter that it speaks of, where that is on the bench and nothing has been learnt of it
 * since: judged, not film, and off by no fault of the metering or of taste. Null where there is none.
 */
export function findingOf(
  frames: readonly Frame[],
  { stack, through, bench }: Pick<Laid, "stack" | "through" | "bench">,
  now: number,
): { frame: Frame; glass: Frame["stack"][number] } | null {
  const closed = frames.filter(({ state, opened_at }) => state === "closed" && Date.parse(opened_at) <= now);
  const last = closed.toSorted((a, b) => Date.parse(b.opened_at) - Date.parse(a.opened_at))[0];
  if (!last || bench.correction !== null || now - Date.parse(last.opened_at) > FINDING_MS) return null;
  const { review, run } = last;
  if (Math.abs(review?.error_stops ?? 0) < WORTH_SAYING || run?.film != null || run?.purpose === "dark") return null;
  if (review?.because === "scene" || review?.because === "taste" || run?.expected_sd != null) return null;
  const counted = last.stack.filter((glass) => !glass.in_reading);
  const [glass] = counted;
  if (counted.length !== 1 || glass?.kind !== "solid" || (last.reading.through ?? []).length > 0) return null;
  const on = stack.find(({ id }) => id === glass.id);
  // What was measured since counts already.
  if (!on || through.some(({ id }) => id === on.id) || (on.offset ?? 0) !== (glass.offset ?? 0)) return null;
  return { frame: last, glass };
}
