import { type ReactNode, useEffect, useRef, useState } from "react";
import { useHeadset } from "../../ui/lockScreen";
import { useKeys } from "../../ui/useKeys";
import "./hold.css";

const HOLD_MS = 600;
/** A remote's button may send no more than a press: two of them within this are meant [ms]. */
const TWICE_MS = 2000;
/** A press so soon after the button has come is the one that brought it [ms]. */
const FRESH_MS = 800;
const NO_KEY = "";
const REMOTE_KEYS = "space,enter";

interface Props {
  onHeld: () => void;
  className?: string;
  hint: string;
  children: ReactNode;
  /** Whether Space, Enter or a headset does it as well: held, or twice. */
  remote?: boolean;
  /** What is said after the first of two presses. */
  onceMore: string;
}

/** Acts only after being held, or by a remote pressed twice: rain and sleeves press buttons too. */
export function HoldButton({ onHeld, className = "", hint, children, remote = false, onceMore }: Props) {
  const [holding, setHolding] = useState(false);
  const [half, setHalf] = useState(false);
  const since = useRef(0);
  const last = useRef(Number.NEGATIVE_INFINITY);
  const timer = useRef<number | undefined>(undefined);
  const began = useRef(0);
  const begin = (at: number) => {
    if (timer.current !== undefined) return;
    began.current = at;
    setHolding(true);
    timer.current = window.setTimeout(() => {
      stop();
      onHeld();
    }, HOLD_MS);
  };
  const stop = () => {
    window.clearTimeout(timer.current);
    timer.current = undefined;
    setHolding(false);
  };
  /** Let go: by its own time a hold, though a page that was held up may not have come to say so. */
  const release = (at: number) => {
    const held = timer.current !== undefined && at - began.current >= HOLD_MS;
    stop();
    if (held) onHeld();
  };
  useEffect(() => {
    since.current = performance.now();
    return () => window.clearTimeout(timer.current);
  }, []);
  /** Whether this press is the second of two. */
  const second = (): boolean => {
    const now = performance.now();
    if (now - since.current < FRESH_MS) return false;
    const twice = now - last.current < TWICE_MS;
    last.current = now;
    setHalf(!twice);
    if (twice) {
      stop();
      onHeld();
    }
    return twice;
  };
  useEffect(() => {
    if (!half) return;
    const over = window.setTimeout(() => setHalf(false), TWICE_MS);
    return () => window.clearTimeout(over);
  }, [half]);
  useKeys(
    remote ? REMOTE_KEYS : NO_KEY,
    (event) => {
      // By the clock that its letting go is told by: a clock of the page's own may be another one.
      if (!second()) begin(event.timeStamp);
    },
    "position",
  );
  useHeadset(remote ? () => void second() : null);
  useEffect(() => {
    if (!remote) return;
    const up = (event: KeyboardEvent) => {
      if (event.code === "Space" || event.code.endsWith("Enter")) release(event.timeStamp);
    };
    document.addEventListener("keyup", up);
    return () => document.removeEventListener("keyup", up);
  });

  return (
    <button
      type="button"
      className={`hold ${className}`}
      data-holding={holding || undefined}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        // A press that began here goes on here, whatever moves meanwhile.
        event.currentTarget.setPointerCapture(event.pointerId);
        begin(event.timeStamp);
      }}
      onPointerUp={(event) => release(event.timeStamp)}
      onPointerLeave={stop}
      onPointerCancel={stop}
      onContextMenu={(event) => event.preventDefault()}
      onKeyDown={(event) => {
        if ((event.key === "Enter" || event.key === " ") && !event.repeat) begin(event.timeStamp);
      }}
      onKeyUp={(event) => release(event.timeStamp)}
      onBlur={stop}
      onClick={(event) => {
        // No finger or mouse: a key, a switch, a voice, which cannot hold.
        if (event.detail === 0) second();
      }}
    >
      <span className="hold-fill" aria-hidden="true" />
      <span className="hold-label">{children}</span>
      <small className="hold-hint" aria-live="polite">
        {half ? onceMore : hint}
      </small>
    </button>
  );
}
