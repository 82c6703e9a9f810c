import type { Light } from "../../questions/light";
import type { Outing } from "../../state/outings";
import { clockIn } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { rateText } from "../../words/rate";
import { roughTime } from "../../words/times";

interface Props {
  outing: Outing;
  light: Light;
  /** The minute that is pointed at [ms]. */
  at: number | null;
  fillable: (number | null)[] | undefined;
  /** Whose light is laid behind. */
  behind: string | undefined;
}

/** Nobody plans a frame longer than this, so that it need not be said that it fills [s]. */
const WORTH_SAYING = 3600;

/** The light of the minute that is pointed at. */
export function PointSaid({ outing, light, at, fillable, behind }: Props) {
  const place = at === null ? -1 : light.points.findLastIndex((point) => Date.parse(point.at) <= at + 30_000);
  const point = light.points[place];
  const longest = fillable?.[place];
  return (
    <>
      {point
        ? outingWords.at(
            clockIn(Date.parse(point.at), outing.zone),
            point.ev100.toFixed(1).replace("-", "−"),
            (2 * point.sd_stops).toFixed(1),
            rateText(point.stops_per_minute),
            point.altitude_deg.toFixed(0),
          )
        : outingWords.hover}
      {point && longest != null && longest < WORTH_SAYING && (
        <span className="quiet"> {outingWords.longest(roughTime(longest))}</span>
      )}
      {behind !== undefined && <span className="quiet"> {outingWords.compare.behind(behind)}</span>}
    </>
  );
}
