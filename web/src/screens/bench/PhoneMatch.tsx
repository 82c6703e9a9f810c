import { Button } from "react-bootstrap";
import { usePhone } from "../../questions/lightWatch";
import { readingOf } from "../../state/asks";
import type { Laid } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import { remember, useHabits } from "../../state/habits";
import { useNow } from "../../ui/useNow";
import { watchWords as say } from "../../words/watch";

/** A reading older than this may be of other light than the phone sees now [ms]. */
const FRESH_MS = 60_000;

/**
 * Phone and camera, matched once with nothing forgotten: from then on a reading that does not fit what the phone sees is
 * asked about. Nothing where the phone does not tell its exposure, or nobody has just metered.
 */
export function PhoneMatch({ laid, light }: { laid: Laid; light: BenchLight }) {
  const now = useNow(15_000);
  const { phoneMatch } = useHabits();
  const { bench } = laid;
  const phone = light.watch?.sight === "watching" ? light.watch.phone : null;
  const metered = bench.meteredAt === null ? 0 : Date.parse(bench.meteredAt);
  const through = laid.stack.filter((glass) => bench.inReading.includes(glass.id));
  const fresh = phone !== null && now - metered < FRESH_MS;
  const found = usePhone(
    fresh
      ? {
          reading: readingOf(laid),
          phone_stops: phone,
          through_stops: through.reduce((sum, glass) => sum + Math.max(0, glass.stops + (glass.offset ?? 0)), 0),
          matched: phoneMatch,
          glass: laid.bag.slice(0, 60).map(({ name, stops }) => ({ name, stops })),
        }
      : null,
  ).answer;
  if (!found) return null;
  if (found.advice)
    return (
      <p className="fault mb-0" role="alert">
        {found.advice.text}{" "}
        <Button variant="link" className="plain-link" onClick={() => remember({ phoneMatch: found.match })}>
          {say.match}
        </Button>
      </p>
    );
  if (phoneMatch !== null) return null;
  return (
    <p className="quiet mb-0">
      <Button variant="link" className="plain-link" onClick={() => remember({ phoneMatch: found.match })}>
        {say.match}
      </Button>{" "}
      {say.matchWhy}
    </p>
  );
}
