import type { Schemas } from "../api/client";
import type { Laid, SaidLight, SeenLight } from "./bench";

/** A pace somebody says is right within a third of itself; steady light may still move a little. */
const SAID_SHARE = 1 / 3;
const STEADY_SD = 0.03;
/** What was seen of the light says nothing any more after so long [ms]. */
const SAID_FOR = 2 * 3_600_000;

/** The light as somebody says it moves. */
export function saidMoving(said: SaidLight | null, now: number): Schemas["KnownRateInput"] | null {
  if (!said || now - Date.parse(said.at) > SAID_FOR) return null;
  const rate = said.stopMinutes === 0 ? 0 : 1 / said.stopMinutes;
  return { stops_per_minute: rate, rate_sd: rate === 0 ? STEADY_SD : Math.abs(rate) * SAID_SHARE };
}

/** The light as the last frame saw it, gone on since. `age` is how long ago was metered [s]. */
export function seenMoving(seen: SeenLight | null, now: number, age: number): Laid["light"] {
  if (!seen) return null;
  // Half minutes are as fine as a rate deserves, and keep the sum still between key presses.
  const minutes = Math.max(0, Math.round((now - Date.parse(seen.at)) / 30_000)) / 2;
  return {
    stops_per_minute: seen.stops_per_minute,
    rate_sd: seen.rate_sd,
    delay_seconds: Math.min(6 * 3600, Math.max(0, age)),
    moved_stops: seen.moved_stops + seen.stops_per_minute * minutes,
    moved_sd: Math.hypot(seen.moved_sd, seen.rate_sd * minutes),
  };
}
