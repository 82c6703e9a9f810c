import { words } from "../../words";
import { clockText, timeText } from "../../words/times";
import { axis } from "./axis";
import { Flag } from "./Flags";
import { FLAG } from "./flagSize";
import { Graduation, POLE } from "./Graduation";
import "./staff.css";

interface Props {
  /** How long it were open in steady light [s]. */
  enough: number;
  /** How long the shutter has been open [s]. */
  elapsed: number;
  /** Share of the light gathered; null where nobody knows it. */
  gathered: number | null;
  /** When it is meant to close, by the clock [s]; null where it only counts up. */
  closes: number | null;
  width: number;
  height: number;
}

/** Ends closer than this are one end [stops]. */
const LEAST_MOVE = 0.05;
/** Until its place is known it has no size to draw in [px]. */
const LEAST_SIZE = 90;

/** While the shutter is open: the light climbs towards enough, and the clock beside it. */
export function LightStaff({ enough, elapsed, gathered, closes, width, height }: Props) {
  const light = gathered === null ? null : gathered * enough;
  if (width < LEAST_SIZE || height < LEAST_SIZE) return null;
  const low = Math.max(enough / 32, 1 / 8);
  const scale = axis([low * 2 ** 0.3, enough, closes ?? enough], FLAG + 6, height - 8, 5);
  const [foot, top] = scale.ends;
  const pole = width < 300 ? 46 : 66;
  const x = pole + POLE;
  const block = Math.min(150, (width - x) * 0.36);
  const place = (seconds: number) => scale(Math.min(Math.max(seconds, foot), top));
  const moves = closes !== null && Math.abs(Math.log2(closes / enough)) > LEAST_MOVE;
  const climbed = place(light ?? elapsed);
  const percent = gathered === null ? null : Math.round(gathered * 100);
  const said = words.staff.openText(timeText(enough), timeText(elapsed), percent);
  return (
    <svg className="staff" width={width} height={height} role="img" aria-label={said}>
      <rect className="light-goal" x={x + 4} y={scale(enough)} width={block} height={scale(foot) - scale(enough)} />
      <rect className="light-so-far" x={x + 4} y={climbed} width={block} height={Math.max(0, scale(foot) - climbed)} />
      <Graduation
        scale={scale}
        pole={pole}
        dialLimit={0}
        from={0}
        to={0}
        aim={{ from: light ?? elapsed, to: top * 2 }}
      />
      <line className="answer-line" x1={x} x2={width} y1={scale(enough)} y2={scale(enough)} />
      <text className="light-word" x={width} y={scale(enough) - 8} textAnchor="end">
        {moves ? words.staff.enoughSteady(timeText(enough)) : words.staff.enough(timeText(enough))}
      </text>
      {closes !== null && moves && (
        <g>
          <line className="dial-line" x1={x + block + 24} x2={width} y1={place(closes)} y2={place(closes)} />
          <text className="light-word quiet" x={width} y={place(closes) + 17} textAnchor="end">
            {words.staff.closesAt(clockText(closes))}
          </text>
        </g>
      )}
      <Flag
        testId="run-gathered"
        className="flag-answer"
        x={x}
        y={climbed}
        hangs={climbed + FLAG < height}
        width={Math.min(Math.max(block + 16, 112), width - x)}
        label={gathered === null ? clockText(elapsed) : words.staff.gathered(percent ?? 0)}
      />
      <ClockFlag
        x={width - 104}
        y={Math.min(place(elapsed), height - CLOCK_FLAG - 2)}
        width={104}
        label={words.staff.openFor(clockText(elapsed))}
      />
    </svg>
  );
}

const CLOCK_FLAG = 26;

/** The clock's own pennant, in outline: it climbs with time, not with light. */
function ClockFlag({ x, y, width, label }: { x: number; y: number; width: number; label: string }) {
  const height = CLOCK_FLAG;
  return (
    <g className="flag-clock" transform={`translate(${x} ${y})`}>
      <path d={`M${width} 0 H0 L8 ${height / 2} L0 ${height} H${width} Z`} />
      <text x={width / 2 + 5} y={height / 2} dy="0.35em" textAnchor="middle">
        {label}
      </text>
    </g>
  );
}
