import type { ScaleTime } from "d3-scale";
import { useId } from "react";
import type { Tide } from "../../questions/light";
import { words } from "../../words";

interface Props {
  tide: Tide | undefined;
  x: ScaleTime<number, number>;
  first: number;
  last: number;
  top: number;
  floor: number;
  /** Whether its time is written beside it; else the end of the plan says so. */
  named: boolean;
  clock: (ms: number) => string;
}

/** The time to leave as a wall: hatched behind it; where it is unknown, everything is. */
export function Wall({ tide, x, first, last, top, floor, named, clock }: Props) {
  const hatch = useId();
  if (!tide) return null;
  const leaveBy = tide.leave_by == null ? null : Date.parse(tide.leave_by);
  const flooded = tide.state === "flooded";
  const from = flooded ? first : leaveBy;
  if (from === null || from >= last) return null;
  const left = x(Math.max(first, from));
  return (
    <g className="wall">
      <pattern id={hatch} width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line className="wall-hatch" y2="9" />
      </pattern>
      <rect x={left} width={x(last) - left} y={top} height={floor - top} fill={`url(#${hatch})`} />
      {leaveBy !== null && leaveBy >= first && (
        <>
          <line className="wall-line" x1={left} x2={left} y1={top - 18} y2={floor} />
          {named && (
            <text x={left + 8} y={top - 6}>
              {words.leaving.by(clock(leaveBy))}
            </text>
          )}
        </>
      )}
    </g>
  );
}
