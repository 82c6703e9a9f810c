import { scaleLinear, type ScaleTime } from "d3-scale";
import { curveMonotoneX, line } from "d3-shape";
import { leaveText } from "../../parts/leaving/leaveText";
import type { Tide } from "../../questions/light";
import { type Outing, span } from "../../state/outings";
import { outingWords } from "../../words/outing";

interface Props {
  outing: Outing;
  tide: Tide;
  x: ScaleTime<number, number>;
  first: number;
  last: number;
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** The water under the morning, and the height at which the way back floods. */
export function TideLane({ outing, tide, x, first, last, left, right, top, bottom }: Props) {
  const [begins, ends] = span(outing);
  const known = tide.heights.flatMap((metres, place, marks) => {
    const ms = begins + ((ends - begins) * place) / Math.max(1, marks.length - 1);
    return metres == null || ms < first || ms > last ? [] : [{ ms, metres }];
  });
  const heights = known.map(({ metres }) => metres);
  const floods = outing.floods_at_m;
  const y = scaleLinear([Math.min(0, ...heights), Math.max(1, floods ?? 0, ...heights)], [bottom - 4, top + 16]);
  const simulated = outing.waters.some(({ source }) => source === "simulated");
  const unknown = tide.state === "unknown" || tide.missing != null;
  return (
    <g className="tide-lane">
      {known.length > 1 && (
        <>
          <path
            className="tide-curve"
            d={
              line<{ ms: number; metres: number }>()
                .x(({ ms }) => x(ms))
                .y(({ metres }) => y(metres))
                .curve(curveMonotoneX)(known) ?? ""
            }
          />
          <text className="tide-named" x={left + (right - left) * 0.42} y={bottom - 4}>
            {simulated ? outingWords.tideSimulated : outingWords.tideOwn}
          </text>
        </>
      )}
      {floods !== null && known.length > 1 && (
        <g className="flood" transform={`translate(0 ${y(floods)})`}>
          <line x1={left} x2={right} />
          <text x={left + 6} y={-5}>
            {outingWords.floodsAt(floods.toFixed(1), right - left < 420)}
          </text>
        </g>
      )}
      {unknown && (
        <text className="tide-unknown" x={left + 6} y={bottom - 22}>
          {leaveText(tide, outing.zone)}
        </text>
      )}
    </g>
  );
}
