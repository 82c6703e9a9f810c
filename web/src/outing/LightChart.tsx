import { scaleLinear, scaleUtc } from "d3-scale";
import { area, curveMonotoneX, line } from "d3-shape";
import { type KeyboardEvent, type PointerEvent, useState } from "react";
import { useMeasured } from "../shell/useMeasured";
import { words } from "../words";
import type { Outing } from "./outings";
import { rateText } from "./rate";
import type { Light, Swaps, Tide } from "./useLight";
import { clockIn } from "./zone";

interface Props {
  outing: Outing;
  light: Light;
  swaps: Swaps | undefined;
  tide: Tide | undefined;
  nameOf: (id: string) => string;
}

const LEFT = 44;
const RIGHT = 30;
const TOP = 40;
const SWAPS = 46;
const TIDE = 64;
const FOOT = 24;

/** The light over the clock with its band, the names of twilight, own readings, swaps, tide and leave-by. */
export function LightChart({ outing, light, swaps, tide, nameOf }: Props) {
  const [stage, size] = useMeasured<HTMLDivElement>();
  const [at, setAt] = useState<number | null>(null);
  const points = light.points.map((point) => ({ ...point, ms: Date.parse(point.at) }));
  const first = points[0];
  const last = points.at(-1);
  const width = size?.width ?? 640;
  const height = size?.height ?? 420;
  if (!first || !last) return <div className="light-stage" ref={stage} />;

  const x = scaleUtc([first.ms, last.ms], [LEFT, width - RIGHT]);
  const low = Math.min(...points.map((point) => point.ev100 - 2 * point.sd_stops));
  const high = Math.max(...points.map((point) => point.ev100 + 2 * point.sd_stops));
  const floor = height - FOOT - TIDE - SWAPS;
  const y = scaleLinear([Math.floor(low), Math.ceil(high)], [floor, TOP]);
  const band = area<(typeof points)[number]>()
    .x((point) => x(point.ms))
    .y0((point) => y(point.ev100 - 2 * point.sd_stops))
    .y1((point) => y(point.ev100 + 2 * point.sd_stops));
  const curve = line<(typeof points)[number]>()
    .x((point) => x(point.ms))
    .y((point) => y(point.ev100));
  const events = light.events.filter((event) => event.at != null);
  const heights = (tide?.heights ?? []).map((metres, place, all) => ({
    ms: first.ms + ((last.ms - first.ms) * place) / Math.max(1, all.length - 1),
    metres,
  }));
  const known = heights.filter((one): one is { ms: number; metres: number } => one.metres != null);
  const sea = scaleLinear(
    [Math.min(0, ...known.map((one) => one.metres)), Math.max(1, ...known.map((one) => one.metres))],
    [height - FOOT - 2, height - FOOT - TIDE + 12],
  );
  const leaveBy = tide?.leave_by == null ? null : Date.parse(tide.leave_by);
  const cursor =
    at === null
      ? undefined
      : points.reduce((best, point) => (Math.abs(point.ms - at) < Math.abs(best.ms - at) ? point : best));
  const clock = (ms: number) => clockIn(ms, outing.zone);

  const point = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    setAt(x.invert(event.clientX - box.left).getTime());
  };
  const keys = (event: KeyboardEvent) => {
    const step = { ArrowLeft: -1, ArrowRight: 1, PageDown: -15, PageUp: 15 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const now = cursor?.ms ?? first.ms;
    setAt(Math.min(last.ms, Math.max(first.ms, now + step * 60_000)));
  };

  return (
    <div className="light-chart">
      <p className="light-said" aria-live="polite">
        {cursor
          ? words.outing.at(
              clock(cursor.ms),
              cursor.ev100.toFixed(1),
              (2 * cursor.sd_stops).toFixed(1),
              rateText(cursor.stops_per_minute),
              cursor.altitude_deg.toFixed(0),
            )
          : words.outing.hover}
      </p>
      <div className="light-stage" ref={stage}>
        <svg
          width={width}
          height={height}
          role="slider"
          tabIndex={0}
          aria-label={words.outing.chart}
          aria-valuemin={0}
          aria-valuemax={points.length - 1}
          aria-valuenow={cursor ? points.indexOf(cursor) : 0}
          aria-valuetext={cursor ? `${clock(cursor.ms)}, EV ${cursor.ev100.toFixed(1)}` : clock(first.ms)}
          onPointerMove={point}
          onPointerDown={point}
          onKeyDown={keys}
        >
          {y.ticks(6).map((ev) => (
            <g key={ev} className="light-grid" transform={`translate(0 ${y(ev)})`}>
              <line x1={LEFT} x2={width - RIGHT} />
              <text x={LEFT - 8} dy="0.34em" textAnchor="end">
                {ev}
              </text>
            </g>
          ))}
          {x.ticks(6).map((tick) => (
            <text key={tick.getTime()} className="light-tick" x={x(tick)} y={height - 6} textAnchor="middle">
              {clock(tick.getTime())}
            </text>
          ))}
          <path className="light-band" d={band(points) ?? ""} />
          <path className="light-curve" d={curve(points) ?? ""} />
          {events.map((event, place) => (
            <g
              key={event.name + String(event.at)}
              className="light-event"
              transform={`translate(${x(Date.parse(event.at ?? ""))} 0)`}
            >
              <line y1={TOP - 4} y2={height - FOOT} />
              <text y={place % 2 === 0 ? 12 : 28} textAnchor="middle">
                {words.outing.events[event.name]} {clock(Date.parse(event.at ?? ""))}
              </text>
            </g>
          ))}
          {outing.readings.map((reading, place) => {
            const status = light.readings.find((one) => Date.parse(one.at) === Date.parse(reading.at))?.status ?? "ok";
            return (
              <circle
                key={place}
                className={`light-reading light-${status}`}
                cx={x(Date.parse(reading.at))}
                cy={y(reading.ev100)}
                r="6"
              />
            );
          })}
          <g transform={`translate(0 ${floor + 8})`}>
            {swaps?.stretches.map((stretch, place) => {
              const [from, to] = [x(Date.parse(stretch.start)), x(Date.parse(stretch.end))];
              const name = stretch.glass
                ? stretch.glass.map(nameOf).join(" + ") || words.log.bare
                : words.outing.outOfAim;
              return (
                <g key={stretch.start} className={stretch.glass ? `swap swap-${place % 2}` : "swap swap-none"}>
                  <rect x={from} width={Math.max(1, to - from - 1)} height={SWAPS - 16} rx="2" />
                  {to - from > 70 && (
                    <text x={from + 6} y={(SWAPS - 16) / 2} dy="0.35em">
                      {clip(name, (to - from - 12) / 7)}
                    </text>
                  )}
                </g>
              );
            })}
          </g>
          {known.length > 1 && (
            <path
              className="tide-curve"
              d={
                line<{ ms: number; metres: number }>()
                  .x((one) => x(one.ms))
                  .y((one) => sea(one.metres))
                  .curve(curveMonotoneX)(known) ?? ""
              }
            />
          )}
          {known.length > 1 && (
            <text className="light-tick" x={LEFT} y={height - FOOT - TIDE + 12}>
              {words.outing.tideOwn}
            </text>
          )}
          {leaveBy !== null && leaveBy >= first.ms && leaveBy <= last.ms && (
            <g className="leave-by" transform={`translate(${x(leaveBy)} 0)`}>
              <line y1={TOP} y2={height - FOOT} />
              <text y={height - FOOT - 6} x={-6} textAnchor="end">
                {words.outing.leaveBy(clock(leaveBy))}
              </text>
            </g>
          )}
          {cursor && (
            <line className="light-cursor" x1={x(cursor.ms)} x2={x(cursor.ms)} y1={TOP - 4} y2={height - FOOT} />
          )}
        </svg>
      </div>
    </div>
  );
}

function clip(text: string, letters: number): string {
  return text.length <= letters ? text : `${text.slice(0, Math.max(1, Math.floor(letters) - 1))}…`;
}
