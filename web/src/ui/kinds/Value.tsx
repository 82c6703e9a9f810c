import { type KeyboardEvent, type Ref, useRef } from "react";
import { words } from "../../words";
import { useDrag } from "../useDrag";

interface Props {
  what: string;
  value: string;
  caption?: string;
  onStep: (direction: 1 | -1) => void;
  onType: () => void;
  fieldRef?: Ref<HTMLButtonElement>;
}

/** So far a finger goes for one step [px]. */
const STEP_PX = 14;

/** A value on a short piece of staff: a tap types it, a drag up or down and the arrow keys step along its dial. */
export function Value({ what, value, caption, onStep, onType, fieldRef }: Props) {
  const stepped = useRef(0);
  const dragged = useRef(false);
  const drag = useDrag(
    ({ y }) => {
      const steps = Math.round(-y / STEP_PX);
      if (steps !== stepped.current) {
        dragged.current = true;
        onStep(steps > stepped.current ? 1 : -1);
        stepped.current += steps > stepped.current ? 1 : -1;
      }
      return steps;
    },
    () => {
      stepped.current = 0;
    },
  );
  const keys = (event: KeyboardEvent) => {
    const direction = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key] as 1 | -1 | undefined;
    if (!direction) return;
    event.preventDefault();
    onStep(direction);
  };
  return (
    <button
      type="button"
      ref={fieldRef}
      className="value"
      data-pulled={drag.held !== null || undefined}
      aria-label={words.bench.typeIt(what, value)}
      {...drag.handlers}
      onClick={() => {
        if (!dragged.current) onType();
        dragged.current = false;
      }}
      onKeyDown={keys}
    >
      <span className="value-staff" aria-hidden="true" />
      <span className="value-said">
        <span className="value-number">{value}</span>
        <span className="value-label">{caption ?? what.toLowerCase()}</span>
      </span>
    </button>
  );
}
