import { useRate } from "../../questions/light";
import { looksFrom, useLightWatch } from "../../state/lightWatch";
import type { Plan } from "../../state/armed";
import type { Known } from "../../parts/lightwatch/known";

/** How well a planned rate is known that came without its doubt [stop/min]. */
const PLANNED_SD = 0.05;

/** What a watching phone saw of the light since the metering that a plan stands on. */
export function useLightSince({ reading, run }: Plan): Known | null {
  const watch = useLightWatch();
  const metered = reading.metered_at == null ? null : Date.parse(reading.metered_at);
  const looks = metered === null ? [] : looksFrom(watch, metered, metered);
  const last = looks.at(-1)?.at_seconds ?? 0;
  const { shutter = null, aperture = null, iso = null, ev100 = null, step } = reading;
  const rate = useRate(
    metered === null || last <= 0
      ? null
      : {
          readings: [
            { reading: { shutter, aperture, iso, ev100, step, through: [] }, at: new Date(metered).toISOString() },
          ],
          at: new Date(metered + last * 1000).toISOString(),
          forecast:
            run.stops_per_minute == null
              ? null
              : { stops_per_minute: run.stops_per_minute, rate_sd: run.rate_sd ?? PLANNED_SD },
          looks,
        },
  ).shown;
  if (rate?.moved_stops == null) return null;
  const { moved_stops, moved_sd, weights, steps } = rate;
  return { stops: moved_stops, sd: moved_sd, weights, steps, from: "metering" };
}
