import type { KeyboardEvent, PointerEvent } from "react";
import type { Schemas } from "../../api/client";
import { axis, thirds, ticks } from "../../parts/staff/axis";
import { type Band, Bands } from "../../parts/staff/Bands";
import { useMeasured } from "../../ui/useMeasured";
import { bagWords } from "../../words/bag";

type Found = Schemas["ReachAnswer"];
type Rung = Found["rungs"][number];

interface Props {
  found: Found;
  bands: Band[];
  /** Which rung is pointed at. */
  at: number | null;
  onAt: (at: number) => void;
  rungText: (rung: Rung) => string;
  names: (ids: readonly string[]) => string;
}

const HIGH = 520;
const [TOP, BOTTOM] = [40, HIGH - 14];
const [POLE, BROAD] = [76, 8];
const RUNG = 26;
const NAMES = POLE + BROAD + RUNG + 10;
const NAME_GAP = 17;
const BLOCK = 64;
const NARROW = 520;
const BAND = 92;

const say = bagWords.reach;

/** The bag as a staff: a line for each time it makes, gaps hatched, the filter that would help most as its block. */
export function ReachStaff({ found, bands, at, onAt, rungText, names }: Props) {
  const [ref, size] = useMeasured<HTMLDivElement>();
  const width = size?.width ?? 720;
  const { rungs, gaps, purchase } = found;
  const base = (rungs[0]?.seconds ?? 1) / 2 ** (rungs[0]?.stops ?? 0);
  const bought = purchase ? base * 2 ** purchase.stops : base;
  const scale = axis([base, bought, ...rungs.flatMap((rung) => [rung.seconds, rung.seconds_to])], TOP, BOTTOM);
  const shown = width < NARROW ? [] : bands;
  const bandWidth = Math.min(BAND * shown.length, width * 0.4);
  const blockX = width - bandWidth - BLOCK - (shown.length > 0 ? 16 : 4);
  const taken = gaps.map((gap) => (scale(gap.from_seconds) + scale(gap.to_seconds)) / 2);
  const named = placedNames(rungs, scale, taken);
  const nearest = (y: number) =>
    rungs.reduce((best, rung, place) => (off(rung, y, scale) < off(rungs[best] ?? rung, y, scale) ? place : best), 0);
  const point = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    onAt(nearest(event.clientY - box.top));
  };
  const keys = (event: KeyboardEvent) => {
    const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1, PageUp: 5, PageDown: -5 }[event.key];
    const end = { Home: 0, End: rungs.length - 1 }[event.key];
    const next = end ?? (by === undefined ? undefined : (at ?? -by) + by);
    if (next === undefined) return;
    event.preventDefault();
    onAt(Math.min(rungs.length - 1, Math.max(0, next)));
  };
  const picked = at === null ? undefined : rungs[at];
  return (
    <div
      ref={ref}
      className="reach-staff"
      role="slider"
      tabIndex={0}
      aria-label={say.pick}
      aria-orientation="vertical"
      aria-valuemin={0}
      aria-valuemax={Math.max(0, rungs.length - 1)}
      aria-valuenow={at ?? 0}
      aria-valuetext={picked ? rungText(picked) : say.hint}
      onPointerMove={point}
      onPointerDown={point}
      onKeyDown={keys}
      style={{ height: HIGH }}
    >
      <svg className="staff" width={width} height={HIGH} aria-hidden>
        <defs>
          <pattern id="reach-hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line className="hatch-line" x1="0" x2="0" y1="0" y2="7" />
          </pattern>
        </defs>
        {thirds(scale).map((seconds) => (
          <line key={seconds} className="third" x1={POLE - 5} x2={POLE} y1={scale(seconds)} y2={scale(seconds)} />
        ))}
        {ticks(scale).map((tick) => (
          <g key={tick.label}>
            <line className="tick" x1={POLE - 10} x2={POLE} y1={scale(tick.seconds)} y2={scale(tick.seconds)} />
            <text className="tick-label" x={POLE - 14} y={scale(tick.seconds) + 5} textAnchor="end">
              {tick.label}
            </text>
          </g>
        ))}
        {gaps.map((gap) => {
          const [top, low] = [scale(gap.to_seconds), scale(gap.from_seconds)];
          const box = { x: POLE + BROAD, width: RUNG, y: top, height: low - top };
          return (
            <g key={gap.from_stops}>
              <rect className="reach-gap" {...box} />
              <rect {...box} fill="url(#reach-hatch)" opacity={0.4} />
              <text className="reach-name" x={NAMES} y={(top + low) / 2 + 4}>
                {say.gapOf((gap.to_stops - gap.from_stops).toFixed(1))}
              </text>
            </g>
          );
        })}
        {picked && (
          <line className="reach-across" x1={POLE} x2={width} y1={scale(picked.seconds)} y2={scale(picked.seconds)} />
        )}
        <rect className="pole" x={POLE} y={TOP - 10} width={BROAD} height={BOTTOM - TOP + 10} />
        {rungs.map((rung, place) => (
          <Line
            key={`${rung.stops} ${rung.stops_to}`}
            rung={rung}
            y={scale(rung.seconds)}
            to={scale(rung.seconds_to)}
            on={place === at}
          />
        ))}
        {named.map(({ rung, y }) => (
          <text key={`${rung.stops} ${rung.stops_to}`} className="reach-name" x={NAMES} y={y + 4}>
            {names(rung.glass)}
          </text>
        ))}
        <line
          className="reach-base"
          x1={purchase ? blockX - 8 : POLE - 12}
          x2={purchase ? blockX + BLOCK + 8 : POLE + BROAD + RUNG}
          y1={scale(base)}
          y2={scale(base)}
        />
        {purchase && (
          <g className="reach-bought">
            <rect x={blockX} width={BLOCK} y={scale(bought)} height={scale(base) - scale(bought)} />
            <text x={blockX + BLOCK / 2} y={scale(bought) - 8} textAnchor="middle">
              +{purchase.stops.toFixed(0)}
            </text>
          </g>
        )}
      </svg>
      {shown.length > 0 && <Bands bands={shown} scale={scale} x={width - bandWidth} width={bandWidth} top={TOP - 8} />}
    </div>
  );
}

/** One time, or the stretch a variable filter turns through; alone on the lens it is drawn longer. */
function Line({ rung, y, to, on }: { rung: Rung; y: number; to: number; on: boolean }) {
  const [x, long] = [POLE + BROAD, rung.glass.length === 1 ? RUNG : RUNG * 0.6];
  const mark = on ? "reach-rung reach-on" : "reach-rung";
  if (rung.stops !== rung.stops_to)
    return <rect className={`${mark} reach-turns`} x={x} width={long} y={to} height={Math.max(2, y - to)} />;
  return <line className={mark} x1={x} x2={x + long} y1={y} y2={y} />;
}

/** Single filters are named first, then whatever else finds room. */
function placedNames(rungs: readonly Rung[], scale: (seconds: number) => number, taken: readonly number[]) {
  const found: { rung: Rung; y: number }[] = [];
  for (const rung of rungs.toSorted((a, b) => a.glass.length - b.glass.length)) {
    const y = (scale(rung.seconds) + scale(rung.seconds_to)) / 2;
    if ([...taken, ...found.map((each) => each.y)].every((each) => Math.abs(each - y) >= NAME_GAP))
      found.push({ rung, y });
  }
  return found;
}

function off(rung: Rung, y: number, scale: (seconds: number) => number): number {
  const [low, top] = [scale(rung.seconds), scale(rung.seconds_to)];
  // Within a stretch a line that lies there is nearer than the stretch itself.
  return y > low ? y - low : y < top ? top - y : (low - top) / 100;
}
