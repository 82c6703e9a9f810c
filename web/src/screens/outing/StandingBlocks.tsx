import type { ScaleTime } from "d3-scale";
import { area } from "d3-shape";
import type { Axis } from "../../parts/staff/axis";
import type { Swaps } from "../../questions/light";
import type { Laid } from "../../state/bench";
import { words } from "../../words";
import { shortStops } from "../../words/times";
import { type Layer, layersOf, serves } from "./morning";

interface Props {
  swaps: Swaps | undefined;
  laid: Laid | null;
  nameOf: (id: string) => string;
  x: ScaleTime<number, number>;
  y: Axis;
  first: number;
  last: number;
  clock: (ms: number) => string;
}

/** Narrower than this a block says its stops alone, and narrower still nothing [px]. */
const NAMED = 104;
const COUNTED = 26;
/** A start stands above its block where the one before has so much room [px]. */
const START_WIDE = 52;

/** The filters of the plan standing on what the meter says, each as wide as it serves. */
export function StandingBlocks({ swaps, laid, nameOf, x, y, first, last, clock }: Props) {
  const stretches = (swaps?.stretches ?? []).filter(
    (stretch) => serves(stretch) && Date.parse(stretch.end) > first && Date.parse(stretch.start) < last,
  );
  const written = startsWritten(stretches.map(({ start }) => x(Math.max(first, Date.parse(start)))));
  return (
    <>
      {stretches.map((stretch, place) => {
        const begins = Math.max(first, Date.parse(stretch.start));
        const ends = Math.min(last, Date.parse(stretch.end));
        const wide = x(ends) - x(begins);
        const names = stretch.glass?.map(nameOf).join(" + ") || words.bare;
        const layers = layersOf(stretch, (id) => laid?.bag.find((glass) => glass.id === id));
        const begun = stretch.seconds[0] ?? 1;
        return (
          <g key={stretch.start} className="standing">
            <title>{`${clock(begins)} ${names}`}</title>
            {layers.map((layer) => (
              <Block key={layer.id} layer={layer} name={nameOf(layer.id)} x={x} y={y} wide={wide} />
            ))}
            {layers.length === 0 && (
              <>
                <line
                  className="standing-bare"
                  x1={x(begins)}
                  x2={x(ends)}
                  y1={y(begun)}
                  y2={y(stretch.seconds.at(-1) ?? 1)}
                />
                {wide > NAMED && (
                  <text className="standing-none" x={x(begins) + 6} y={y(begun) + 20}>
                    {words.bare}
                  </text>
                )}
              </>
            )}
            {written[place] && (
              <text className="standing-start" x={x(begins)} y={y(begun) - 7}>
                {clock(begins)}
              </text>
            )}
          </g>
        );
      })}
    </>
  );
}

/** Which starts are written: one that would stand on the one before is left out. */
function startsWritten(lefts: readonly number[]): boolean[] {
  return lefts.reduce<{ last: number; written: boolean[] }>(
    ({ last, written }, left) =>
      left - last >= START_WIDE ? { last: left, written: [...written, true] } : { last, written: [...written, false] },
    { last: -Infinity, written: [] },
  ).written;
}

function Block({ layer, name, x, y, wide }: { layer: Layer; name: string; x: Props["x"]; y: Axis; wide: number }) {
  const shape = area<Layer["edges"][number]>()
    .x(({ ms }) => x(ms))
    .y0(({ from }) => y(from) - 1)
    .y1(({ to }) => y(to));
  // The name stands where the block is highest, away from its ends.
  const inner = layer.edges.slice(Math.floor(layer.edges.length * 0.35), Math.ceil(layer.edges.length * 0.65));
  const middle = inner.toSorted((a, b) => b.to / b.from - a.to / a.from)[0];
  const [start, end] = [layer.edges[0], layer.edges.at(-1)];
  if (!middle || !start || !end) return null;
  const high = y(middle.from) - y(middle.to);
  const text = wide >= NAMED && name.length * 8.4 < wide - 10 ? name : wide >= COUNTED ? shortStops(layer.stops) : "";
  const half = 4 + text.length * 4.2;
  return (
    <g className={`shade-${Math.min(4, Math.floor(layer.stops / 3))}`}>
      <path d={shape(layer.edges) ?? ""} />
      {high > 18 && (
        <text
          x={Math.min(x(end.ms) - half, Math.max(x(start.ms) + half, x(middle.ms)))}
          y={(y(middle.from) + y(middle.to)) / 2}
          dy="0.35em"
          textAnchor="middle"
        >
          {text}
        </text>
      )}
    </g>
  );
}
