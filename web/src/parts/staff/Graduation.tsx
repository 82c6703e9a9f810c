import { words } from "../../words";
import { type Axis, thirds, ticks } from "./axis";

/** How wide the pole is [px]. */
export const POLE = 8;

/** A pole so far from the left edge has room for its marks [px]. */
const LABELLED = 40;

interface Props {
  scale: Axis;
  pole: number;
  /** The longest time on the dial [s], and where the line that says so ends [px]. */
  dialLimit: number;
  from: number;
  to: number;
  /** The times that give what is wished for: orange on the pole. */
  aim: { from: number; to: number } | null;
}

/** The pole with its marks, what is aimed for on it, and where the dial ends. */
export function Graduation({ scale, pole, dialLimit, from, to, aim }: Props) {
  const [low, high] = scale.ends;
  const [top, bottom] = [scale(high), scale(low)];
  return (
    <g aria-hidden="true">
      {pole >= LABELLED &&
        thirds(scale).map((seconds) => (
          <line key={seconds} className="third" x1={pole - 4} x2={pole} y1={scale(seconds)} y2={scale(seconds)} />
        ))}
      {pole >= LABELLED &&
        ticks(scale).map((tick) => (
          <g key={tick.label} transform={`translate(0 ${scale(tick.seconds)})`}>
            <line className="tick" x1={pole - 9} x2={pole} />
            <text className="tick-label" x={pole - 14} dy="0.34em" textAnchor="end">
              {tick.label}
            </text>
          </g>
        ))}
      <rect className="pole" x={pole} y={top - 8} width={POLE} height={bottom - top + 8} />
      {aim && aim.to > low && aim.from < high && (
        <rect
          className="aim-on-pole"
          x={pole}
          y={scale(Math.min(aim.to, high)) - (aim.to >= high ? 8 : 0)}
          width={POLE}
          height={scale(Math.max(aim.from, low)) - scale(Math.min(aim.to, high)) + (aim.to >= high ? 8 : 0)}
        />
      )}
      {to > from && <line className="dial-line" x1={from} x2={to} y1={scale(dialLimit)} y2={scale(dialLimit)} />}
      {to - from > 30 && (
        <text className="dial-label" x={to} y={scale(dialLimit) - 5} textAnchor="end">
          {words.staff.bulb}
        </text>
      )}
    </g>
  );
}
