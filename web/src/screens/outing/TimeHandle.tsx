import { type KeyboardEvent, type PointerEvent, useState } from "react";

interface Props {
  className: string;
  label: string;
  /** Where it stands [px], and the instant it stands for [ms]. */
  left: number;
  ms: number;
  /** How many pixels the outing is wide, and how long it is [ms]. */
  pixels: number;
  span: number;
  /** An instant as it may be, rounded and within what it may not pass. */
  held: (ms: number) => number;
  timeAt: (ms: number) => string;
  onMoved: (ms: number) => void;
}

/** As fine as a plan is [ms]. */
export const GRAIN = 5 * 60_000;

/** An instant on the chart, dragged or moved by the arrow keys, five minutes at a time. */
export function TimeHandle({ className, label, left, ms, pixels, span, held, timeAt, onMoved }: Props) {
  const [drag, setDrag] = useState<{ from: number; by: number } | null>(null);
  const at = drag ? held(ms + (drag.by / pixels) * span) : ms;
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
      className={className}
      style={{ left: left + (drag?.by ?? 0) }}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={1440}
      aria-valuenow={Math.round(at / 60_000) % 1440}
      aria-valuetext={timeAt(at)}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setDrag({ from: event.clientX, by: 0 });
      }}
      onPointerMove={move}
      onPointerUp={drop}
      onPointerCancel={() => setDrag(null)}
      onKeyDown={keys}
    >
      <span>{timeAt(at)}</span>
    </div>
  );
}
