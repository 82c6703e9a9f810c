import type { Exposure } from "../../questions/bench";
import { type Laid, settingsOf } from "../../state/bench";
import { words } from "../../words";
import { saidStops, shortStops, signedStops, sumTime, timeText } from "../../words/times";

interface Props {
  answer: Exposure;
  laid: Laid;
  stale: boolean;
}

/** The working, line by line: what each step takes, and how far the time has come. */
export function Working({ answer, laid, stale }: Props) {
  return (
    <details className="reckoning" data-stale={stale || undefined}>
      <summary>{words.bench.sum}</summary>
      <table className="sum">
        <tbody>
          {answer.steps.map((step, place) => (
            <tr key={place}>
              <th scope="row">{stepName(step, laid)}</th>
              <td>{place > 0 && sumStops(step)}</td>
              <td>
                {place === 0 && laid.bench.meter === "camera"
                  ? laid.bench.shutter
                  : sumTime(step.seconds, laid.dialLimit)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

function sumStops({ kind, stops }: Exposure["steps"][number]): string {
  if (kind === "in_reading") return "0";
  return kind === "correction" ? saidStops(stops) : signedStops(stops);
}

function stepName(step: Exposure["steps"][number], laid: Laid): string {
  const glass = step.glass == null ? undefined : laid.stack[step.glass]?.name;
  const { aperture, iso } = laid.bench;
  const shot = settingsOf(laid);
  const say = words.bench.stepNames;
  switch (step.kind) {
    case "reading":
      return say.reading;
    case "measured":
      return say.measured(glass ?? "");
    case "in_reading":
      return say.in_reading(glass ?? "");
    case "turned": {
      const now = step.glass == null ? undefined : laid.stack[step.glass];
      const then = laid.through.find(({ id }) => id === now?.id);
      return say.turned(glass ?? "", shortStops(then?.stops ?? 0), shortStops(now?.stops ?? 0));
    }
    case "aperture":
      return say.aperture(`f/${aperture}`, `f/${shot.aperture}`);
    case "iso":
      return say.iso(iso, shot.iso);
    case "light":
      return step.stops < 0 ? say.lightRises : say.lightFalls;
    case "film":
      return say.film(laid.film?.name ?? "");
    case "chosen":
      return say.chosen(timeText(step.seconds));
    default:
      return glass ?? step.name;
  }
}
