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
  clock: (ms: number) => string;
  onMoved: (ms: number) => void;
}

const SHORTEST = 30 * 60_000;
/** An outing ends within a day of its beginning. */
const LONGEST = 23 * 3_600_000;

/** One end of the outing on the chart. */
export function SpanHandle({ side, clock, ...at }: Props) {
  const { ms, span } = at;
  // Neither end passes the other, nor leaves it for a day.
  const held = (wanted: number) => {
    const rounded = Math.round(wanted / GRAIN) * GRAIN;
    return side === "arrive"
      ? Math.max(ms + span - LONGEST, Math.min(rounded, ms + span - SHORTEST))
      : Math.min(ms - span + LONGEST, Math.max(rounded, ms - span + SHORTEST));
  };
  const say = side === "arrive" ? outingWords.arriveAt : outingWords.backAt;
  return (
    <TimeHandle
      className={`span-handle span-${side}`}
      label={side === "arrive" ? outingWords.arrive : outingWords.turnBack}
      held={held}
      timeAt={(shown) => say(clock(shown))}
      {...at}
    />
  );
}
