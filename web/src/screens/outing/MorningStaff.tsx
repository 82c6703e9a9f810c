import { scaleUtc } from "d3-scale";
import { area, line } from "d3-shape";
import { type KeyboardEvent, type PointerEvent, useId } from "react";
import { Graduation } from "../../parts/staff/Graduation";
import type { Light } from "../../questions/light";
import type { Laid } from "../../state/bench";
import { type Outing, span } from "../../state/outings";
import { useMeasured } from "../../ui/useMeasured";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";
import { clockIn } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { dateIn, wallTime } from "../../words/zone";
import { closer, meteredOver, type Minute, morningAxis, partedBySettings } from "./morning";
import { SpanHandle } from "./SpanHandle";
import { StandingBlocks } from "./StandingBlocks";
import { TideLane } from "./TideLane";
import type { Plan } from "./usePlan";
import { Wall } from "./Wall";
import "./morning.css";

interface Props {
  outing: Outing;
  light: Light;
  plan: Plan;
  laid: Laid | null;
  nameOf: (id: string) => string;
  /** The minute that is pointed at, and what hours are shown [ms]; all of them where null. */
  at: number | null;
  zoom: [number, number] | null;
  onPoint: (ms: number) => void;
  onZoom: (zoom: [number, number] | null) => void;
  /** Another outing's light over the same hours, laid behind. */
  behind: { ms: number; ev100: number }[] | undefined;
  /** Another part of the plan, changed on the picture. */
  onEdit: (change: Partial<Outing>, message: string) => void;
}

const POLE_PX = 8;
const RIGHT = 16;
const TOP = 34;
const FOOT = 26;
/** With less height there is no room for the water beneath [px]. */
const ROOM_FOR_TIDE = 330;
const TIDE = 86;
const NARROW = 480;
const LOWEST = 40;
/** The moments that are named on the picture; the table names them all. */
const NAMED = /^(sunrise|sunset|sun_)/;

/** The staff through the morning: what the meter says over the clock, the filters standing on it, and where it ends. */
export function MorningStaff(props: Props) {
  const { outing, light, plan, laid, nameOf, at, zoom, onPoint, onZoom, behind, onEdit } = props;
  const [stage, size] = useMeasured<HTMLDivElement>();
  const clip = useId();
  const now = useNow(30_000);
  const [begins, ends] = span(outing);
  const [first, last] = zoom ?? [begins, ends];
  const narrow = (size?.width ?? 0) < NARROW;
  const left = narrow ? 56 : 72;
  const width = Math.max(size?.width ?? 640, left + RIGHT + 1);
  const height = size?.height ?? 420;
  const tide = height >= ROOM_FOR_TIDE && plan.water ? TIDE : 0;
  const floor = height - FOOT - tide;
  const minutes = meteredOver(light, plan.swaps, plan.atEvZero);
  const until = plan.end ?? ends;
  const clock = (ms: number) => clockIn(ms, outing.zone);
  const x = scaleUtc([first, last], [left, width - RIGHT]);
  const shows = (ms: number) => ms >= first && ms <= last;
  const held = (ms: number) => Math.min(last, Math.max(first, ms));
  // Not shown, as on paper, it has no height of its own to draw into.
  if (minutes.length < 2 || floor - TOP < LOWEST) return <div className="morning-stage" ref={stage} />;

  const y = morningAxis(minutes, plan.swaps, plan.aim, until, TOP, floor);
  const parts = partedBySettings(minutes.filter(({ ms }) => ms >= first - 60_000 && ms <= last + 60_000));
  const curve = line<Minute>()
    .x(({ ms }) => x(ms))
    .y(({ metered }) => y(metered));
  const band = area<Minute>()
    .x(({ ms }) => x(ms))
    .y0(({ metered, sd }) => y(metered * 2 ** (2 * sd)))
    .y1(({ metered, sd }) => y(metered / 2 ** (2 * sd)));
  const levelAt = (ms: number) => minutes.findLast((minute) => minute.ms <= ms) ?? minutes[0];
  /** Another brightness at a minute, at the settings of that minute [s]. */
  const meteredAs = (ms: number, ev100: number) => {
    const minute = levelAt(ms);
    const point = light.points.findLast((each) => Date.parse(each.at) <= ms) ?? light.points[0];
    return minute && point ? minute.metered * 2 ** (point.ev100 - ev100) : 1;
  };
  const cursor = at === null || !shows(at) ? null : at;
  const cursorPoint = cursor === null ? undefined : levelAt(cursor);
  const point = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    onPoint(held(x.invert(event.clientX - box.left).getTime()));
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === "+") onZoom(closer([first, last], cursor ?? (first + last) / 2, [begins, ends]));
    if (event.key === "-") onZoom(null);
    const step = { ArrowLeft: -1, ArrowRight: 1, PageDown: -15, PageUp: 15 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    onPoint(held((cursor ?? first) + step * 60_000));
  };
  const events = light.events.filter(
    ({ name, at: when }) => when != null && NAMED.test(name) && shows(Date.parse(when)),
  );

  return (
    <div className="morning-stage" ref={stage}>
      <svg
        className="staff morning"
        width={width}
        height={height}
        role="slider"
        tabIndex={0}
        aria-label={outingWords.chart}
        aria-valuemin={0}
        aria-valuemax={minutes.length - 1}
        aria-valuenow={cursorPoint ? minutes.indexOf(cursorPoint) : 0}
        aria-valuetext={clock(cursor ?? first)}
        onPointerMove={(event) => {
          if (event.buttons > 0) point(event);
        }}
        onPointerDown={point}
        onKeyDown={keys}
      >
        <clipPath id={clip}>
          <rect x={left} y={TOP - 8} width={Math.max(0, width - left - RIGHT)} height={floor - TOP + 8} />
        </clipPath>
        {plan.aim && (
          <rect
            className="sure-band"
            x={left}
            width={Math.max(0, x(held(until)) - left)}
            y={y(plan.aim.to)}
            height={Math.max(0, y(plan.aim.from) - y(plan.aim.to))}
            clipPath={`url(#${clip})`}
          />
        )}
        <Graduation scale={y} pole={left - POLE_PX} dialLimit={1} from={0} to={0} aim={plan.aim} />
        <line className="morning-floor" x1={left - POLE_PX} x2={width - RIGHT} y1={floor} y2={floor} />
        {x.ticks(narrow ? 4 : 8).map((tick) => (
          <g key={tick.getTime()} transform={`translate(${x(tick)} ${floor})`}>
            <line className="morning-tick" y2={5} />
            <text
              className="morning-quiet"
              y={19}
              textAnchor={x(tick) > width - RIGHT - 16 ? "end" : "middle"}
              x={x(tick) > width - RIGHT - 16 ? RIGHT : 0}
            >
              {clock(tick.getTime())}
            </text>
          </g>
        ))}
        {events.map(({ name, at: when }, place) => (
          <g key={name} className="morning-event" transform={`translate(${x(Date.parse(when ?? ""))} 0)`}>
            <line y1={place % 2 === 0 ? 16 : 30} y2={floor} />
            <text y={place % 2 === 0 ? 12 : 26} x={-5} textAnchor="end">
              {words.events[name]} {clock(Date.parse(when ?? ""))}
            </text>
          </g>
        ))}
        <g clipPath={`url(#${clip})`}>
          {parts.map((part) => (
            <path key={part[0]?.ms} className="morning-doubt" d={band(part) ?? ""} />
          ))}
          {behind && (
            <path
              className="light-behind"
              d={
                line<{ ms: number; ev100: number }>()
                  .x(({ ms }) => x(ms))
                  .y(({ ms, ev100 }) => y(meteredAs(ms, ev100)))(behind.filter(({ ms }) => shows(ms))) ?? ""
              }
            />
          )}
          <StandingBlocks
            swaps={plan.swaps}
            laid={laid}
            nameOf={nameOf}
            x={x}
            y={y}
            first={first}
            last={last}
            clock={clock}
          />
          {parts.map((part) => (
            <path key={part[0]?.ms} className="morning-meter" d={curve(part) ?? ""} />
          ))}
        </g>
        <text className="morning-says" x={left + 12} y={floor - 12}>
          {outingWords.meterCurve}
        </text>
        {outing.readings
          .filter(({ at: when }) => shows(Date.parse(when)))
          .map(({ at: when, ev100 }) => {
            const status = light.readings.find((weighed) => Date.parse(weighed.at) === Date.parse(when))?.status;
            return (
              <circle
                key={when}
                className={`light-reading light-${status ?? "ok"}`}
                cx={x(Date.parse(when))}
                cy={Math.min(floor, Math.max(TOP, y(meteredAs(Date.parse(when), ev100))))}
                r="6"
              />
            );
          })}
        {tide > 0 && plan.water && (
          <TideLane
            outing={outing}
            tide={plan.water}
            x={x}
            first={first}
            last={last}
            left={left}
            right={width - RIGHT}
            top={floor + FOOT + 4}
            bottom={height - 4}
          />
        )}
        {now > first && now < last && (
          <g className="morning-now" transform={`translate(${x(now)} 0)`}>
            <line y1={TOP - 8} y2={floor} />
            <text y={floor - 12} x={6}>
              {outingWords.nowMark(clock(now))}
            </text>
          </g>
        )}
        <Wall
          tide={plan.water}
          x={x}
          first={first}
          last={last}
          top={TOP - 8}
          floor={floor}
          named={zoom !== null}
          clock={clock}
        />
        {cursor !== null && (
          <g className="morning-cursor" transform={`translate(${x(cursor)} 0)`}>
            <line y1={TOP - 8} y2={floor} />
            <text y={TOP + 4} x={6}>
              {clock(cursor)}
            </text>
          </g>
        )}
      </svg>
      {!zoom && (
        <Ends
          outing={outing}
          plan={plan}
          left={left}
          right={width - RIGHT}
          clock={clock}
          floor={floor}
          onEdit={onEdit}
        />
      )}
    </div>
  );
}

interface EndsProps {
  outing: Outing;
  plan: Plan;
  left: number;
  right: number;
  floor: number;
  clock: (ms: number) => string;
  onEdit: Props["onEdit"];
}

/** Both ends of the outing, pulled or moved by the arrow keys. */
function Ends({ outing, plan, left, right, floor, clock, onEdit }: EndsProps) {
  const [begins, ends] = span(outing);
  const leaveBy = plan.water?.leave_by == null ? Infinity : Date.parse(plan.water.leave_by);
  const end = Math.max(begins, plan.end ?? ends);
  const pixels = right - left;
  const common = { pixels, span: ends - begins, begins, ends, clock, high: floor };
  return (
    <>
      <SpanHandle
        side="arrive"
        left={left}
        ms={begins}
        onMoved={(ms) =>
          onEdit({ date: dateIn(ms, outing.zone), arrive: wallTime(ms, outing.zone) }, outingWords.spanMoved)
        }
        {...common}
      />
      <SpanHandle
        side="turn_back"
        left={left + ((end - begins) / (ends - begins)) * pixels}
        ms={end}
        latest={leaveBy}
        onMoved={(ms) => onEdit({ turn_back: wallTime(ms, outing.zone) }, outingWords.spanMoved)}
        {...common}
      />
    </>
  );
}
