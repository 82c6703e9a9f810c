import { useWait } from "../../questions/light";
import type { Laid } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import { words } from "../../words";
import { placeClock } from "../../words/clock";
import { waitOf } from "./asks";

/** Wait instead of glass: when the light will be what the floating reading wants. */
export function WaitLine({ laid, light, seconds }: { laid: Laid; light: BenchLight; seconds: number }) {
  const say = words.light;
  const wait = useWait(
    light.counts ? waitOf(light.outing, laid, light.at, seconds, light.plausible?.ev100) : null,
  ).answer;
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
              placeClock(Date.parse(wait.at), light.outing.zone),
              sure == null ? "" : say.waitSure(sure < 1 ? "1" : String(Math.ceil(sure))),
            )}
    </p>
  );
}
