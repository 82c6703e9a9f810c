import { useWait } from "../../questions/light";
import { clockIn } from "../../words/zone";
import { words } from "../../words";
import type { Laid } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import { settingsOf } from "../../state/bench";

/** Wait instead of glass: when the light will be what the floating reading wants. */
export function WaitLine({ laid, light, seconds }: { laid: Laid; light: BenchLight; seconds: number }) {
  const say = words.outing.benchLight;
  const settings = laid.bench.meter === "hand" ? settingsOf(laid) : laid.bench;
  const wait = useWait(
    light.outing,
    light.at,
    light.counts ? { shutter: seconds, aperture: settings.aperture, iso: settings.iso, step: laid.step } : null,
  );
  if (!light.counts || !wait) return null;
  const sure = wait.give_or_take_minutes;
  return (
    <p className="wait-line" data-testid="wait">
      {Math.abs(wait.stops_to_go) < 0.05
        ? say.waitThere
        : wait.at == null
          ? say.waitNever
          : say.wait(
              Math.abs(wait.stops_to_go).toFixed(1),
              clockIn(Date.parse(wait.at), light.outing.zone),
              sure == null ? "" : say.waitSure(sure < 1 ? "1" : String(Math.ceil(sure))),
            )}
    </p>
  );
}
