import { words } from "../../words";
import { signedStops } from "../../words/times";
import type { Axis } from "./axis";
import type { Part } from "./parts";

interface Props {
  part: Part;
  scale: Axis;
  x: number;
  width: number;
  hatch: string;
  /** How high its words stand [px], and where they begin. */
  labelAt: number;
  labelX: number;
  named: boolean;
}

/** What moves the time and is no filter: a hatched sliver with its sign, between the sum and the line. */
export function Notch({ part, scale, x, width, hatch, labelAt, labelX, named }: Props) {
  const [from, to] = [scale(part.from), scale(part.to)];
  const [top, bottom] = [Math.min(from, to), Math.max(from, to)];
  const name = part.kind === "light" ? words.staff.light : part.name;
  return (
    <g className={`notch notch-${part.kind}`}>
      <rect fill={`url(#${hatch})`} x={x} y={top} width={width} height={Math.max(2, bottom - top)} />
      <line className="notch-end" x1={x} x2={x + width} y1={from} y2={from} />
      {named && (
        <text className="notch-label" x={labelX} y={labelAt} dy="0.34em">
          {`${name} ${signedStops(part.stops)}`}
        </text>
      )}
    </g>
  );
}
