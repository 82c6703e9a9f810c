import type { Schemas } from "../api/client";
import { type Plausible, usePlausible, useSky } from "../questions/light";
import { useNow } from "../ui/useNow";
import { plausibleOf, readingOf } from "./asks";
import type { Laid } from "./bench";
import { instantNear, isLive, type Outing, span, useOutings } from "./outings";

export interface BenchLight {
  outing: Outing;
  /** Whether an outing goes on, or a time of it was chosen. */
  counts: boolean;
  at: number;
  plausible: Plausible | undefined;
  seen: Schemas["SkyFitsAnswer"] | undefined;
  /** What goes into the sum. */
  moving: Laid["light"];
}

/** What the current outing, or the sky one sees, says about the light at the bench. */
export function useBenchLight(laid: Laid): BenchLight {
  const { bench } = laid;
  const { current } = useOutings();
  const now = useNow(15_000);
  const live = isLive(current, now);
  const counts = bench.useOuting && (live || bench.lightAt !== null);
  const [from, to] = span(current);
  const at = bench.lightAt === null ? Math.min(Math.max(now, from), to) : instantNear(current, bench.lightAt);
  const plausible = usePlausible(counts ? plausibleOf(current, laid, at) : null).answer;
  const sky = counts ? null : bench.skySeen;
  const seen = useSky(sky && { sky, reading: readingOf(laid) }).answer;
  const age = bench.lightAt === null && bench.meteredAt !== null ? (now - Date.parse(bench.meteredAt)) / 1000 : 0;
  const moving =
    counts && plausible
      ? {
          stops_per_minute: plausible.stops_per_minute,
          rate_sd: plausible.rate_sd,
          // Half minutes are as fine as a rate deserves, and keep the sum still between key presses.
          delay_seconds: Math.min(6 * 3600, Math.max(0, Math.round(age / 30) * 30)),
        }
      : null;
  return { outing: current, counts, at, plausible, seen, moving };
}
