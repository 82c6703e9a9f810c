import { scaleLinear, scaleUtc } from "d3-scale";
import { area, curveMonotoneX, line } from "d3-shape";
import { type KeyboardEvent, type PointerEvent, type ReactNode, useId, useState } from "react";
import { Button } from "react-bootstrap";
import type { Schemas } from "../../api/client";
import { leaveText } from "../../parts/leaving/leaveText";
import type { Light, Swaps, Tide } from "../../questions/light";
import { type Outing, span } from "../../state/outings";
import { useMeasured } from "../../ui/useMeasured";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";
import { clockIn } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { rateText } from "../../words/rate";
import { roughTime } from "../../words/times";
import { dateIn, wallTime } from "../../words/zone";
import { LightTable } from "./LightTable";
import { RidgeLane } from "./RidgeLane";
import { SkyLane } from "./SkyLane";
import { SpanHandle } from "./SpanHandle";
import { SwapLane } from "./SwapLane";
import { tones } from "./tones";

interface Props {
  outing: Outing;
  light: Light;
  swaps: Swaps | undefined;
  tide: Tide | undefined;
  /** When the plan ends [ms]: turning back, or leaving before that; null while that is not known. */
  end: number | null;
  /** The longest frame that still fills, at each point of the light. */
  fillable: (number | null)[] | undefined;
  nameOf: (id: string) => string;
  /** What follows from the minute that is pointed at. */
  minute: (point: Light["points"][number]) => ReactNode;
  frames: Schemas["PlannedFramesAnswer"] | undefined;
  /** Another outing's light over the same hours, laid behind. */
  behind: { name: string; points: { ms: number; ev100: number }[] } | undefined;
  /** Another part of the plan, changed on the picture. */
  onEdit: (change: Partial<Outing>, message: string) => void;
}

const LEFT = 44;
const RIGHT = 30;
const TOP = 78;
/** The lane of the sky stands above the light. */
const SKY = 38;
const SWAPS = 56;
const TIDE = 64;
const FOOT = 24;
/** On a phone the words are fewer [px]. */
const NARROW = 480;
/** Nobody wants to look closer than a quarter of an hour [ms]. */
const SHORTEST = 15 * 60_000;
/** Nobody plans a frame longer than this, so that it need not be said that it fills [s]. */
const WORTH_SAYING = 3600;

/** The light over the clock with its band, the names of twilight, own readings, swaps, tide and leave-by. */
export function LightChart({
  outing,
  light,
  swaps,
  tide,
  end,
  fillable,
  nameOf,
  minute,
  frames,
  behind,
  onEdit,
}: Props) {
  const [stage, size] = useMeasured<HTMLDivElement>();
  const [at, setAt] = useState<number | null>(null);
  const [zoom, setZoom] = useState<[number, number] | null>(null);
  const clip = useId();
  const now = useNow(30_000);
  const all = light.points.map((point, place) => ({
    ...point,
    ms: Date.parse(point.at),
    longest: fillable?.[place],
  }));
  // One point either side of what is shown, so that the curve runs to the edge.
  const points = zoom ? all.filter(({ ms }) => ms >= zoom[0] - 60_000 && ms <= zoom[1] + 60_000) : all;
  const first = all[0] && { ms: zoom?.[0] ?? all[0].ms };
  const last = { ms: zoom?.[1] ?? all.at(-1)?.ms ?? 0 };
  // Not shown, as on paper, it has no width of its own to draw into.
  const width = Math.max(size?.width ?? 640, LEFT + RIGHT + 1);
  const height = size?.height ?? 420;
  if (!first || points.length < 2) return <div className="light-stage" ref={stage} />;

  const x = scaleUtc([first.ms, last.ms], [LEFT, width - RIGHT]);
  const besides = (behind?.points ?? []).filter(({ ms }) => ms >= first.ms && ms <= last.ms).map(({ ev100 }) => ev100);
  const low = Math.min(...points.map((point) => point.ev100 - 2 * point.sd_stops), ...besides);
  const high = Math.max(...points.map((point) => point.ev100 + 2 * point.sd_stops), ...besides);
  const floor = height - FOOT - TIDE - SWAPS;
  const y = scaleLinear([Math.floor(low), Math.ceil(high)], [floor, TOP]);
  const band = area<(typeof points)[number]>()
    .x((point) => x(point.ms))
    .y0((point) => y(point.ev100 - 2 * point.sd_stops))
    .y1((point) => y(point.ev100 + 2 * point.sd_stops));
  const curve = line<{ ms: number; ev100: number }>()
    .x((point) => x(point.ms))
    .y((point) => y(point.ev100));
  const events = light.events.filter((event) => event.at != null);
  const [begins, ends] = span(outing);
  const heights = (tide?.heights ?? []).map((metres, place, marks) => ({
    ms: begins + ((ends - begins) * place) / Math.max(1, marks.length - 1),
    metres,
  }));
  const known = heights.filter((entry): entry is { ms: number; metres: number } => entry.metres != null);
  const sea = scaleLinear(
    [Math.min(0, ...known.map((entry) => entry.metres)), Math.max(1, ...known.map((entry) => entry.metres))],
    [height - FOOT - 2, height - FOOT - TIDE + 12],
  );
  const leaveBy = tide?.leave_by == null ? null : Date.parse(tide.leave_by);
  const unknown = tide?.state === "unknown" || tide?.missing != null;
  const clock = (ms: number) => clockIn(ms, outing.zone);
  const shows = (ms: number) => ms >= first.ms && ms <= last.ms;
  const held = (ms: number) => Math.min(last.ms, Math.max(first.ms, ms));
  // A minute that was pointed at while other hours stood here is not taken for the nearest of these.
  const cursor =
    at === null || !shows(at)
      ? undefined
      : points.reduce((best, point) => (Math.abs(point.ms - at) < Math.abs(best.ms - at) ? point : best));

  const point = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    setAt(held(x.invert(event.clientX - box.left).getTime()));
  };
  const closer = (about: number) => {
    const half = Math.max(SHORTEST, (last.ms - first.ms) / 2) / 2;
    const middle = Math.min(ends - half, Math.max(begins + half, about));
    setZoom([middle - half, middle + half]);
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === "+") closer(cursor?.ms ?? (first.ms + last.ms) / 2);
    if (event.key === "-") setZoom(null);
    const step = { ArrowLeft: -1, ArrowRight: 1, PageDown: -15, PageUp: 15 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const now = cursor?.ms ?? first.ms;
    setAt(held(now + step * 60_000));
  };

  return (
    <div className="light-chart">
      <div className="light-head">
        <p className="light-said" aria-live="polite">
          {cursor
            ? outingWords.at(
                clock(cursor.ms),
                cursor.ev100.toFixed(1).replace("-", "−"),
                (2 * cursor.sd_stops).toFixed(1),
                rateText(cursor.stops_per_minute),
                cursor.altitude_deg.toFixed(0),
              )
            : outingWords.hover}
          {cursor?.longest != null && cursor.longest < WORTH_SAYING && (
            <span className="quiet"> {outingWords.longest(roughTime(cursor.longest))}</span>
          )}
        </p>
        <div role="group" aria-label={outingWords.zoomLabel} className="light-zoom">
          <Button
            variant="quiet"
            size="sm"
            disabled={last.ms - first.ms <= SHORTEST}
            onClick={() => closer(cursor?.ms ?? (now > first.ms && now < last.ms ? now : (first.ms + last.ms) / 2))}
          >
            {outingWords.zoomIn}
          </Button>
          <Button variant="quiet" size="sm" disabled={!zoom} onClick={() => setZoom(null)}>
            {outingWords.zoomOut}
          </Button>
        </div>
      </div>
      {cursor && minute(cursor)}
      <div className="light-stage" ref={stage}>
        <svg
          width={width}
          height={height}
          role="slider"
          tabIndex={0}
          aria-label={outingWords.chart}
          aria-valuemin={0}
          aria-valuemax={points.length - 1}
          aria-valuenow={cursor ? points.indexOf(cursor) : 0}
          aria-valuetext={cursor ? `${clock(cursor.ms)}, EV ${cursor.ev100.toFixed(1)}` : clock(first.ms)}
          onPointerMove={(event) => {
            if (event.buttons > 0) point(event);
          }}
          onPointerDown={point}
          onKeyDown={keys}
        >
          <clipPath id={clip}>
            <rect x={LEFT} y={0} width={Math.max(0, width - LEFT - RIGHT)} height={height} />
          </clipPath>
          {tones(first.ms, last.ms, points[0]?.altitude_deg ?? 0, light.events).map((toned) => (
            <rect
              key={toned.from}
              className={`tone-${toned.tone}`}
              x={x(toned.from)}
              width={Math.max(0, x(toned.to) - x(toned.from))}
              y={TOP - 4}
              height={Math.max(0, floor - TOP + 4)}
            />
          ))}
          <text className="light-axis" x={LEFT + 6} y={TOP + 14}>
            {outingWords.axis}
          </text>
          {y.ticks(6).map((ev) => (
            <g key={ev} className="light-grid" transform={`translate(0 ${y(ev)})`}>
              <line x1={LEFT} x2={width - RIGHT} />
              <text x={LEFT - 8} dy="0.34em" textAnchor="end">
                {String(ev).replace("-", "−")}
              </text>
            </g>
          ))}
          {x.ticks(6).map((tick) => (
            <text key={tick.getTime()} className="light-tick" x={x(tick)} y={height - 6} textAnchor="middle">
              {clock(tick.getTime())}
            </text>
          ))}
          <g clipPath={`url(#${clip})`}>
            <path className="light-band" d={band(points) ?? ""} />
            {behind && <path className="light-behind" d={curve(behind.points) ?? ""} />}
            <path className="light-curve" d={curve(points) ?? ""} />
          </g>
          {now > first.ms && now < last.ms && (
            <g className="light-now" transform={`translate(${x(now)} 0)`}>
              <line y1={TOP - 4} y2={height - FOOT} />
              <text y={floor - 6} x={6}>
                {outingWords.nowMark(clock(now))}
              </text>
            </g>
          )}
          {events
            .filter((event) => shows(Date.parse(event.at ?? "")))
            .map((event, place) => (
              <g
                key={event.name + String(event.at)}
                className="light-event"
                transform={`translate(${x(Date.parse(event.at ?? ""))} 0)`}
              >
                <line y1={SKY - 6} y2={height - FOOT} />
                <text y={place % 2 === 0 ? 12 : 28} textAnchor="middle">
                  {words.events[event.name]} {clock(Date.parse(event.at ?? ""))}
                </text>
              </g>
            ))}
          {outing.readings
            .filter((reading) => shows(Date.parse(reading.at)))
            .map((reading, place) => {
              const status =
                light.readings.find((weighed) => Date.parse(weighed.at) === Date.parse(reading.at))?.status ?? "ok";
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
            <SwapLane swaps={swaps} frames={frames} x={x} first={first.ms} last={last.ms} nameOf={nameOf} />
          </g>
          {known.length > 1 && (
            <path
              clipPath={`url(#${clip})`}
              className="tide-curve"
              d={
                line<{ ms: number; metres: number }>()
                  .x((entry) => x(entry.ms))
                  .y((entry) => sea(entry.metres))
                  .curve(curveMonotoneX)(known) ?? ""
              }
            />
          )}
          {known.length > 1 && (
            <text className="light-tick" x={LEFT + 10} y={height - FOOT - TIDE + 12}>
              {outing.waters.some((water) => water.source === "simulated")
                ? outingWords.tideSimulated
                : outingWords.tideOwn}
            </text>
          )}
          {outing.floods_at_m !== null && known.length > 1 && (
            <g className="flood" transform={`translate(0 ${sea(outing.floods_at_m)})`}>
              <line x1={LEFT} x2={width - RIGHT} />
              <text x={width < NARROW ? LEFT + 150 : LEFT + 170} y={-5}>
                {outingWords.floodsAt(outing.floods_at_m.toFixed(1), width < NARROW)}
              </text>
            </g>
          )}
          {tide && unknown && (
            <text className="tide-unknown" x={LEFT + 10} y={height - FOOT - 8}>
              {leaveText(tide, outing.zone)}
            </text>
          )}
          {leaveBy !== null && leaveBy < last.ms && (
            <rect
              className="too-late"
              x={x(Math.max(first.ms, leaveBy))}
              width={x(last.ms) - x(Math.max(first.ms, leaveBy))}
              y={height - FOOT - TIDE}
              height={TIDE}
            />
          )}
          {leaveBy !== null && leaveBy >= first.ms && leaveBy <= last.ms && (
            <g className="leave-by" transform={`translate(${x(leaveBy)} 0)`}>
              <line y1={TOP} y2={height - FOOT} />
              {/* Otherwise the end of the plan says so. */}
              {zoom && (
                <text y={height - FOOT - 6} x={-6} textAnchor="end">
                  {words.leaving.by(clock(leaveBy))}
                </text>
              )}
            </g>
          )}
          {cursor && (
            <g className="light-cursor" transform={`translate(${x(cursor.ms)} 0)`}>
              <line y1={TOP - 4} y2={height - FOOT} />
              {/* Below the axis's name, which stands at the top on the left. */}
              <text y={TOP + 34} x={6}>
                {clock(cursor.ms)}
              </text>
            </g>
          )}
        </svg>
        <div className="sky-lane-box" style={{ top: SKY }}>
          <SkyLane
            outing={outing}
            x={x}
            first={first.ms}
            last={last.ms}
            pixels={width - LEFT - RIGHT}
            at={cursor?.ms}
            clock={clock}
            onChange={(change) => onEdit(change, outingWords.lane.changed)}
          />
        </div>
        {!zoom && (
          <>
            <SpanHandle
              side="arrive"
              left={LEFT}
              ms={begins}
              pixels={width - LEFT - RIGHT}
              span={last.ms - first.ms}
              begins={begins}
              ends={ends}
              clock={clock}
              onMoved={(ms) =>
                onEdit({ date: dateIn(ms, outing.zone), arrive: wallTime(ms, outing.zone) }, outingWords.spanMoved)
              }
            />
            <SpanHandle
              side="turn_back"
              left={x(Math.max(first.ms, end ?? ends))}
              ms={Math.max(begins, end ?? ends)}
              latest={leaveBy ?? Infinity}
              pixels={width - LEFT - RIGHT}
              span={last.ms - first.ms}
              begins={begins}
              ends={ends}
              clock={clock}
              onMoved={(ms) => onEdit({ turn_back: wallTime(ms, outing.zone) }, outingWords.spanMoved)}
            />
          </>
        )}
      </div>
      {outing.scene === "sun_lit" && (
        <RidgeLane
          outing={outing}
          points={points}
          events={light.events}
          x={x}
          width={width}
          left={LEFT}
          right={RIGHT}
          clock={clock}
          onChange={(ridge) => onEdit({ ridge }, outingWords.ridgeLane.changed)}
        />
      )}
      <LightTable outing={outing} light={light} />
    </div>
  );
}
