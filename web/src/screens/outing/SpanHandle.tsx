import { words } from "../../words";
import { outingWords } from "../../words/outing";
import { GRAIN, TimeHandle } from "./TimeHandle";

interface Props {
  side: "arrive" | "turn_back";
  /** Where it stands [px], and the instant it stands for [ms]. */
  left: number;
  ms: number;
  /** How many pixels the outing is wide, and how long it is [ms]. */
  pixels: number;
  span: number;
  /** The outing's own hours [ms]. */
  begins: number;
  ends: number;
  /** Nobody turns back later than this [ms]. */
  latest?: number;
  /** How far down it reaches [px]. */
  high: number;
  clock: (ms: number) => string;
  onMoved: (ms: number) => void;
}

const SHORTEST = 30 * 60_000;
/** An outing ends within a day of its beginning. */
const LONGEST = 23 * 3_600_000;

/** One end of the outing on the chart. */
export function SpanHandle({ side, clock, begins, ends, latest = Infinity, ...at }: Props) {
  // Neither end passes the other, nor leaves it for a day; nobody plans to be there when it is time to leave.
  const held = (wanted: number) => {
    const rounded = Math.round(wanted / GRAIN) * GRAIN;
    return side === "arrive"
      ? Math.max(ends - LONGEST, Math.min(rounded, ends - SHORTEST))
      : Math.min(begins + LONGEST, latest, Math.max(rounded, begins + SHORTEST));
  };
  const forced = side === "turn_back" && at.ms >= latest;
  const say = side === "arrive" ? outingWords.arriveAt : forced ? words.leaving.by : outingWords.backAt;
  return (
    <TimeHandle
      className={`span-handle span-${side}${forced ? " span-wall" : ""}`}
      label={side === "arrive" ? outingWords.arrive : outingWords.turnBack}
      held={held}
      timeAt={(shown) => say(clock(shown))}
      {...at}
    />
  );
}
