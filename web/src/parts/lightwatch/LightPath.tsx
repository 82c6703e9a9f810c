import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { Lit } from "../../state/again";
import { signedStops, timeText } from "../../words/times";
import { watchWords as say } from "../../words/watch";
import "./lightwatch.css";

type Point = Lit["points"][number];

const [WIDTH, HEIGHT, LEFT, FOOT] = [420, 150, 44, 22];
/** Light that hardly moves is not drawn as if it did [stops]. */
const LEAST = 0.5;

/** The light of a frame as it was seen, with its doubt, against the light that was counted on. */
export function LightPath({ lit, seconds }: { lit: Lit; seconds: number }) {
  const { points } = lit;
  const first = points[0]?.at_seconds ?? 0;
  const x = scaleLinear([Math.min(0, first), seconds], [LEFT, WIDTH - 8]);
  const all = points.flatMap((point) => [point.stops - 2 * point.sd, point.stops + 2 * point.sd, point.planned]);
  const [low, high] = [Math.min(-LEAST, ...all), Math.max(LEAST, ...all)];
  const y = scaleLinear([low, high], [HEIGHT - FOOT, 10]);
  const across = (point: Point) => x(point.at_seconds);
  const band = area<Point>(
    across,
    (point) => y(point.stops - 2 * point.sd),
    (point) => y(point.stops + 2 * point.sd),
  );
  const watched = line<Point>(across, (point) => y(point.stops));
  const counted = line<Point>(across, (point) => y(point.planned));
  return (
    <figure className="light-story">
      <svg
        className="light-path"
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label={`${say.chart(signedStops(low), signedStops(high))}. ${lit.text}`}
      >
        <rect className="open-span" x={x(0)} y="10" width={x(seconds) - x(0)} height={HEIGHT - FOOT - 10} />
        <line className="axis" x1={LEFT} x2={WIDTH - 8} y1={y(0)} y2={y(0)} />
        <path className="band" d={band(points) ?? ""} />
        <path className="counted" d={counted(points) ?? ""} />
        <path className="seen" d={watched(points) ?? ""} />
        {[low, 0, high].map((stops) => (
          <text key={stops} x={LEFT - 6} y={y(stops) + 4} textAnchor="end">
            {stops === 0 ? "0" : signedStops(stops)}
          </text>
        ))}
        <text x={x(0)} y={HEIGHT - 5}>
          {say.opening}
        </text>
        <text x={x(seconds)} y={HEIGHT - 5} textAnchor="end">
          {say.closing} {timeText(Math.max(1, Math.round(seconds)))}
        </text>
      </svg>
      <figcaption>
        {lit.text} <span className="quiet">{say.legend}</span>
      </figcaption>
    </figure>
  );
}
