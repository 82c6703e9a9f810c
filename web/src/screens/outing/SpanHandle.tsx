import { type KeyboardEvent, type PointerEvent, useState } from "react";
import { outingWords } from "../../words/outing";

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

const GRAIN = 5 * 60_000;
const SHORTEST = 30 * 60_000;
/** An outing ends within a day of its beginning. */
const LONGEST = 23 * 3_600_000;

/** One end of the outing on the chart: dragged or moved by the arrow keys, five minutes at a time. */
export function SpanHandle({ side, left, ms, pixels, span, clock, onMoved }: Props) {
  const [drag, setDrag] = useState<{ from: number; by: number } | null>(null);
  // Neither end passes the other, nor leaves it for a day.
  const held = (at: number) => {
    const rounded = Math.round(at / GRAIN) * GRAIN;
    return side === "arrive"
      ? Math.max(ms + span - LONGEST, Math.min(rounded, ms + span - SHORTEST))
      : Math.min(ms - span + LONGEST, Math.max(rounded, ms - span + SHORTEST));
  };
  const at = drag ? held(ms + (drag.by / pixels) * span) : ms;
  const say = side === "arrive" ? outingWords.arriveAt : outingWords.backAt;
  const move = (event: PointerEvent) => {
    if (drag) setDrag({ ...drag, by: event.clientX - drag.from });
  };
  const drop = () => {
    setDrag(null);
    if (at !== ms) onMoved(at);
  };
  const keys = (event: KeyboardEvent) => {
    const step = { ArrowLeft: -1, ArrowRight: 1, PageDown: -6, PageUp: 6 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    onMoved(held(ms + step * GRAIN));
  };
  return (
    <div
      className={`span-handle span-${side}`}
      style={{ left: left + (drag?.by ?? 0) }}
      role="slider"
      tabIndex={0}
      aria-label={side === "arrive" ? outingWords.arrive : outingWords.turnBack}
      aria-valuemin={0}
      aria-valuemax={1440}
      aria-valuenow={Math.round(at / 60_000) % 1440}
      aria-valuetext={say(clock(at))}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setDrag({ from: event.clientX, by: 0 });
      }}
      onPointerMove={move}
      onPointerUp={drop}
      onPointerCancel={() => setDrag(null)}
      onKeyDown={keys}
    >
      <span>{say(clock(at))}</span>
    </div>
  );
}
