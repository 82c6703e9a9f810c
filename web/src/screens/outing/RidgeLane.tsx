import type { ScaleTime } from "d3-scale";
import { type KeyboardEvent, type PointerEvent, useState } from "react";
import type { Light } from "../../questions/light";
import type { Outing } from "../../state/outings";
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
const say = outingWords.ridgeLane;

/** The sun's path and the ridge before it; the ridge is pulled as high as it stands. */
export function RidgeLane({ outing, points, events, x, width, left, right, clock, onChange }: Props) {
  const [pulled, setPulled] = useState<number | null>(null);
  const distance = outing.ridge?.distance_m ?? USUAL_M;
  const ridgeDeg = outing.ridge ? (Math.atan2(outing.ridge.height_m, outing.ridge.distance_m) * 180) / Math.PI : 0;
  const deg = pulled ?? ridgeDeg;
  const top = Math.max(12, deg + 4, ...points.map((point) => point.altitude_deg));
  const y = (altitude: number) => GROUND - (Math.max(0, altitude) / top) * (GROUND - TOP);
  const path = points.map((point, at) => `${at === 0 ? "M" : "L"}${x(point.ms)} ${y(point.altitude_deg)}`).join("");
  const keep = (to: number) => {
    const held = Math.min(HIGHEST_DEG, Math.max(0, Math.round(to * 2) / 2));
    setPulled(null);
    onChange(
      held === 0 ? null : { distance_m: distance, height_m: Math.round(distance * Math.tan((held * Math.PI) / 180)) },
    );
  };
  const pull = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    setPulled(Math.min(HIGHEST_DEG, Math.max(0, ((GROUND - (event.clientY - box.top)) / (GROUND - TOP)) * top)));
  };
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
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        pull(event);
      }}
      onPointerMove={(event) => {
        if (pulled !== null) pull(event);
      }}
      onPointerUp={() => {
        if (pulled !== null) keep(pulled);
      }}
      onPointerCancel={() => setPulled(null)}
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
