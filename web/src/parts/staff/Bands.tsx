import type { Axis } from "./axis";

export interface Band {
  /** The subject it belongs to, and its name. */
  id: string;
  name: string;
  windows: { look: string; from: number; to: number | null; wanted: boolean }[];
}

interface Props {
  bands: Band[];
  scale: Axis;
  x: number;
  width: number;
}

const GAP = 6;
const HEAD = 14;
const LEAST_LABEL = 17;
const WIDE_ENOUGH = 66;
const LINE = 14;

/** What moves in the picture, as columns of windows on the staff's own axis. */
export function Bands({ bands, scale, x, width }: Props) {
  const each = (width - GAP * (bands.length - 1)) / bands.length;
  const [low, high] = scale.ends;
  const [bottom, top] = [scale(low), scale(high)];
  return (
    <g className="bands" aria-hidden="true">
      {bands.map((band, place) => (
        <g key={band.id} transform={`translate(${x + place * (each + GAP)} 0)`}>
          <text className="band-name" x={each / 2} y={top - HEAD} textAnchor="middle">
            {band.name}
          </text>
          {band.windows.map((window, at) => {
            const [from, to] = [Math.max(window.from, low), Math.min(window.to ?? high, high)];
            if (from >= to) return null;
            const [upper, lower] = [scale(to), scale(from)];
            return (
              <g key={window.look} className={`band band-${at % 2}${window.wanted ? " band-wanted" : ""}`}>
                <rect
                  y={Math.max(upper, top)}
                  height={Math.max(0, Math.min(lower, bottom) - upper - 1)}
                  width={each}
                  rx="2"
                />
                {lower - upper >= LEAST_LABEL && (
                  <Label text={window.look} x={each / 2} y={(upper + lower) / 2} narrow={each < WIDE_ENOUGH} />
                )}
              </g>
            );
          })}
        </g>
      ))}
    </g>
  );
}

/** A look's name, on a line for each word where the column is narrow. */
function Label({ text, x, y, narrow }: { text: string; x: number; y: number; narrow: boolean }) {
  const lines = narrow ? text.split(" ") : [text];
  return (
    <text textAnchor="middle">
      {lines.map((line, at) => (
        <tspan key={line} x={x} y={y + (at - (lines.length - 1) / 2) * LINE} dy="0.35em">
          {line}
        </tspan>
      ))}
    </text>
  );
}
