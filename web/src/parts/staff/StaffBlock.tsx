import { useDrag } from "../../ui/useDrag";
import { words } from "../../words";
import { shortStops, signedStops } from "../../words/times";
import type { Axis } from "./axis";
import { FLAG } from "./flagSize";
import type { Part } from "./parts";

interface Props {
  part: Part;
  scale: Axis;
  x: number;
  width: number;
  hatch: string;
  /** Too narrow for names: what it takes stands there alone. */
  narrow: boolean;
  /** Where the answer's pennant begins, which may lie over it [px]. */
  flag: number;
  /** Whether its name is written on it. */
  named: boolean;
  onTakeOff?: (id: string) => void;
}

const OFF_PX = 60;

/** A filter in the sum: as tall as its stops; what was on while metering is a ghost beneath the reading. */
export function StaffBlock(props: Props) {
  const { part, scale, x, width, hatch, narrow, flag, named, onTakeOff } = props;
  const id = part.id;
  const drag = useDrag(
    ({ x: right }) => Math.max(0, right),
    (right) => {
      if (right > OFF_PX && id !== undefined) onTakeOff?.(id);
    },
  );
  const pulled = drag.held ?? 0;
  const [top, bottom] = [scale(Math.max(part.from, part.to)), scale(Math.min(part.from, part.to))];
  const height = Math.max(1.5, bottom - top - 2);
  const ghost = part.kind === "in_reading";
  const free = freePart(top, top + height, flag);
  const middle = (free.from + free.to) / 2 - top;
  const room = named ? free.to - free.from : 0;
  const roomy = room >= 44 && !narrow;
  const dark = Math.min(4, Math.floor(part.stops / 3));
  const draggable = id !== undefined && onTakeOff && !ghost;
  const handlers = draggable && drag.handlers;
  const kind = part.glassKind;
  return (
    <g
      className={`${ghost ? "block ghost" : `block shade-${dark}`}${draggable ? " block-loose" : ""}`}
      transform={`translate(${x + pulled} ${top})`}
      opacity={pulled > OFF_PX ? 0.45 : undefined}
      {...handlers}
    >
      {part.range && (
        <rect
          className="block-range"
          width={width + 8}
          x={-4}
          y={scale(part.range.high) - top}
          height={scale(part.range.low) - scale(part.range.high)}
        />
      )}
      <rect width={width} height={height} />
      {(kind === "polariser" || kind === "combined" || kind === "variable") && (
        <rect className="hatch" width={10} height={height} x={width - 10} fill={`url(#${hatch})`} />
      )}
      {ghost && <rect className="hatch" width={width} height={height} fill={`url(#${hatch})`} />}
      {room >= 17 && (
        <text className="block-name" x="12" y={roomy ? middle - 4 : middle} dy={roomy ? 0 : "0.35em"}>
          {narrow ? shortStops(part.stops) : part.name}
          {!roomy && !narrow && <tspan className="block-stops">{`  ${signedStops(part.stops)}`}</tspan>}
        </text>
      )}
      {roomy && (
        <text className="block-stops" x="12" y={middle + 16}>
          {words.staff.stops(signedStops(part.stops))}
        </text>
      )}
    </g>
  );
}

/** The larger part of a block that the pennant leaves free. */
function freePart(top: number, bottom: number, flag: number): { from: number; to: number } {
  const [above, below] = [Math.min(bottom, flag), Math.max(top, flag + FLAG)];
  if (flag >= bottom || flag + FLAG <= top) return { from: top, to: bottom };
  return above - top > bottom - below ? { from: top, to: above } : { from: below, to: bottom };
}
