import type { Light } from "../../questions/light";
import type { Outing } from "../../state/outings";
import { clockIn } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { rateText } from "../../words/rate";
import { everyQuarter } from "./everyQuarter";

/** What the chart shows, in figures: every quarter of an hour. */
export function LightTable({ outing, light }: { outing: Outing; light: Light }) {
  const say = outingWords.table;
  return (
    <details className="light-table">
      <summary>{say.open}</summary>
      <table>
        <thead>
          <tr>
            {say.head.map((title) => (
              <th key={title} scope="col">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {everyQuarter(light).map((point) => (
            <tr key={point.at}>
              <th scope="row">{clockIn(Date.parse(point.at), outing.zone)}</th>
              <td>{point.ev100.toFixed(1).replace("-", "−")}</td>
              <td>{(2 * point.sd_stops).toFixed(1)}</td>
              <td>{rateText(point.stops_per_minute)}</td>
              <td>{point.altitude_deg.toFixed(0).replace("-", "−")}°</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
