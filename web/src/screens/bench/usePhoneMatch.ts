import { type Matched, usePhone } from "../../questions/lightWatch";
import { readingOf } from "../../state/asks";
import type { Laid } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import { useHabits } from "../../state/habits";
import { useNow } from "../../ui/useNow";

/** A reading older than this may be of other light than the phone sees now [ms]. */
const FRESH_MS = 60_000;
const MOST_GLASS = 60;

/**
 * A reading against what the phone sees of the same scene; undefined where the phone does not tell its exposure, or
 * nobody has just metered.
 */
export function usePhoneMatch(laid: Laid, light: BenchLight): PhoneMatchState {
  const now = useNow(15_000);
  const { phoneMatch } = useHabits();
  const { bench } = laid;
  const phone = light.watch?.sight === "watching" ? light.watch.phone : null;
  const metered = bench.meteredAt === null ? 0 : Date.parse(bench.meteredAt);
  return usePhone(
    phone !== null && now - metered < FRESH_MS
      ? {
          reading: readingOf(laid),
          phone_stops: phone,
          through_stops: 0,
          matched: phoneMatch,
          glass: laid.bag.slice(0, MOST_GLASS).map(({ name, stops }) => ({ name, stops })),
        }
      : null,
  ).answer;
}

export type PhoneMatchState = Matched | undefined;
