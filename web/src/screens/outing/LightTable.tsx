import type { Light } from "../../questions/light";
import type { Outing } from "../../state/outings";
import { clockIn } from "../../words/clock";
import { words } from "../../words";
import { outingWords } from "../../words/outing";
import { rateText } from "../../words/rate";
import { everyQuarter } from "./everyQuarter";

/** What the chart shows, in words and figures: the sky's moments, and the light every quarter of an hour. */
export function LightTable({ outing, light }: { outing: Outing; light: Light }) {
  const say = outingWords.table;
  const never = light.events
    .filter(({ name, at }) => at == null && (name === "sunrise" || name === "sunset"))
    .map(({ name }) => words.events[name] ?? name);
  return (
    <div className="light-table">
      <h3>{outingWords.light}</h3>
      <p>
        {light.events
          .flatMap(({ name, at }) =>
            at == null ? [] : [`${words.events[name] ?? name} ${clockIn(Date.parse(at), outing.zone)}`],
          )
          .join(" · ")}
      </p>
      {never.length > 0 && <p className="quiet">{outingWords.notHere(never)}</p>}
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
    </div>
  );
}
