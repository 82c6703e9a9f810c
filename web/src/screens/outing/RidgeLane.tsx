import type { ScaleTime } from "d3-scale";
import type { KeyboardEvent } from "react";
import type { Light } from "../../questions/light";
import type { Outing } from "../../state/outings";
import { useDrag } from "../../ui/useDrag";
import { words } from "../../words";
import { outingWords } from "../../words/outing";

interface Props {
  outing: Outing;
  points: { ms: number; altitude_deg: number }[];
  events: Light["events"];
  x: ScaleTime<number, number>;
  width: number;
  left: number;
  right: number;
  clock: (ms: number) => string;
  onChange: (ridge: Outing["ridge"]) => void;
}

const HIGH = 92;
const [TOP, GROUND] = [18, HIGH - 8];
/** Where nobody has said how far the ridge is [m]. */
const USUAL_M = 1000;
const HIGHEST_DEG = 45;
/** What stays free above the ridge. */
const ROOM_DEG = 4;
const say = outingWords.ridgeLane;

/** The altitude under a height of the lane [px], which grows with what is pulled so that the line stays under the hand. */
function pulledDeg(px: number, top: number): number {
  const share = Math.max(0, (GROUND - px) / (GROUND - TOP));
  const deg = share * top;
  if (deg + ROOM_DEG <= top) return deg;
  return share < 1 ? Math.min(HIGHEST_DEG, (ROOM_DEG * share) / (1 - share)) : HIGHEST_DEG;
}

/** The sun's path and the ridge before it; the ridge is pulled as high as it stands. */
export function RidgeLane({ outing, points, events, x, width, left, right, clock, onChange }: Props) {
  const distance = outing.ridge?.distance_m ?? USUAL_M;
  const ridgeDeg = outing.ridge ? (Math.atan2(outing.ridge.height_m, outing.ridge.distance_m) * 180) / Math.PI : 0;
  const atRest = Math.max(12, ridgeDeg + ROOM_DEG, ...points.map((point) => point.altitude_deg));
  const keep = (to: number) => {
    const held = Math.min(HIGHEST_DEG, Math.max(0, Math.round(to * 2) / 2));
    onChange(
      held === 0 ? null : { distance_m: distance, height_m: Math.round(distance * Math.tan((held * Math.PI) / 180)) },
    );
  };
  const drag = useDrag(
    (_pull, { currentTarget, clientY }) => pulledDeg(clientY - currentTarget.getBoundingClientRect().top, atRest),
    (to) => keep(to),
  );
  const deg = drag.held ?? ridgeDeg;
  const top = Math.max(atRest, deg + ROOM_DEG);
  const y = (altitude: number) => GROUND - (Math.max(0, altitude) / top) * (GROUND - TOP);
  const path = points.map((point, at) => `${at === 0 ? "M" : "L"}${x(point.ms)} ${y(point.altitude_deg)}`).join("");
  const keys = (event: KeyboardEvent) => {
    const by = { ArrowUp: 0.5, ArrowRight: 0.5, ArrowDown: -0.5, ArrowLeft: -0.5, PageUp: 2, PageDown: -2 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    keep(ridgeDeg + by);
  };
  const heightText = deg === 0 ? say.none : say.stands(deg.toFixed(1), String(Math.round(distance)));
  const over = events.filter((event) => event.at != null && event.name.startsWith("sun_"));
  return (
    <svg
      className="ridge-lane"
      width={width}
      height={HIGH}
      role="slider"
      tabIndex={0}
      aria-label={say.label}
      aria-orientation="vertical"
      aria-valuemin={0}
      aria-valuemax={HIGHEST_DEG}
      aria-valuenow={Math.round(deg * 2) / 2}
      aria-valuetext={heightText}
      onKeyDown={keys}
      {...drag.handlers}
    >
      <rect className="ridge-ground" x={left} width={width - left - right} y={y(deg)} height={HIGH - y(deg)} />
      <path className="ridge-sun" d={path} />
      <line className="ridge-line" x1={left} x2={width - right} y1={y(deg)} y2={y(deg)} />
      <text x={left + 8} y={y(deg) - 6}>
        {heightText}
      </text>
      {over.map((event) => (
        <g key={event.name + String(event.at)} transform={`translate(${x(Date.parse(event.at ?? ""))} 0)`}>
          <circle className="ridge-over" cy={y(ridgeDeg)} r={6} />
          <text y={y(ridgeDeg) - 10} textAnchor="middle">
            {words.events[event.name]} {clock(Date.parse(event.at ?? ""))}
          </text>
        </g>
      ))}
    </svg>
  );
}
