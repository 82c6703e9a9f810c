import type { KeyboardEvent } from "react";
import { useDrag } from "../../ui/useDrag";

interface Props {
  className: string;
  label: string;
  /** Where it stands [px], and the instant it stands for [ms]. */
  left: number;
  ms: number;
  /** How many pixels the outing is wide, and how long it is [ms]. */
  pixels: number;
  span: number;
  /** How far down it reaches [px]; else as its class says. */
  high?: number;
  /** An instant as it may be, rounded and within what it may not pass. */
  held: (ms: number) => number;
  timeAt: (ms: number) => string;
  onMoved: (ms: number) => void;
}

/** As fine as a plan is [ms]. */
export const GRAIN = 5 * 60_000;

/** An instant on the chart, dragged or moved by the arrow keys, five minutes at a time. */
export function TimeHandle({ className, label, left, ms, pixels, span, high, held, timeAt, onMoved }: Props) {
  const dragged = (by: number) => held(ms + (by / pixels) * span);
  const { held: by, handlers } = useDrag(
    ({ x }) => x,
    (right) => {
      if (dragged(right) !== ms) onMoved(dragged(right));
    },
  );
  const at = by === null ? ms : dragged(by);
  const keys = (event: KeyboardEvent) => {
    const step = { ArrowLeft: -1, ArrowRight: 1, PageDown: -6, PageUp: 6 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    onMoved(held(ms + step * GRAIN));
  };
  return (
    <div
      className={className}
      style={{ left: left + (by ?? 0), height: high }}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={1440}
      aria-valuenow={Math.round(at / 60_000) % 1440}
      aria-valuetext={timeAt(at)}
      {...handlers}
      onKeyDown={keys}
    >
      <span>{timeAt(at)}</span>
    </div>
  );
}
