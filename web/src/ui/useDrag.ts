import { type PointerEvent, useRef, useState } from "react";

/** How far the pointer has come since it was pressed [px]. */
export interface Pull {
  x: number;
  y: number;
}

interface Drag<Value> {
  /** What the drag measures now; null while nothing is dragged. */
  held: Value | null;
  handlers: {
    onPointerDown: (event: PointerEvent) => void;
    onPointerMove: (event: PointerEvent) => void;
    onPointerUp: (event: PointerEvent) => void;
    onPointerCancel: () => void;
  };
}

/**
 * A drag by mouse, pen or finger: `measure` says what it stands for, from the press on; `land` is told the last of it
 * where it is let go, and nothing where the browser takes the pointer away.
 */
export function useDrag<Value>(
  measure: (pull: Pull, event: PointerEvent) => Value,
  land: (value: Value, event: PointerEvent) => void,
): Drag<Value> {
  const from = useRef<Pull | null>(null);
  const [held, setHeld] = useState<Value | null>(null);
  const now = (event: PointerEvent): Value | null =>
    from.current && measure({ x: event.clientX - from.current.x, y: event.clientY - from.current.y }, event);
  const letGo = () => {
    from.current = null;
    setHeld(null);
  };
  return {
    held,
    handlers: {
      onPointerDown: (event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = { x: event.clientX, y: event.clientY };
        setHeld(now(event));
      },
      onPointerMove: (event) => {
        if (from.current) setHeld(now(event));
      },
      onPointerUp: (event) => {
        const value = now(event);
        letGo();
        if (value !== null) land(value, event);
      },
      onPointerCancel: letGo,
    },
  };
}
