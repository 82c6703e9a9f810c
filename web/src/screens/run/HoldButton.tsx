import { type ReactNode, useEffect, useRef, useState } from "react";
import { useKeys } from "../../ui/useKeys";

export const HOLD_MS = 600;

interface Props {
  onHeld: () => void;
  className?: string;
  hint: string;
  children: ReactNode;
  /** A key of the page that may be held instead. */
  holdKey?: string;
}

/** Acts only after being held: rain and sleeves press buttons too. */
export function HoldButton({ onHeld, className = "", hint, children, holdKey }: Props) {
  const [holding, setHolding] = useState(false);
  const timer = useRef<number | undefined>(undefined);
  const begin = () => {
    if (timer.current !== undefined) return;
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
  useEffect(() => () => window.clearTimeout(timer.current), []);
  useKeys(holdKey ?? "f24", begin, "position");
  useEffect(() => {
    if (!holdKey) return;
    const up = (event: KeyboardEvent) => {
      if (event.code.toLowerCase() === holdKey) stop();
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
        begin();
      }}
      onPointerUp={stop}
      onPointerLeave={stop}
      onPointerCancel={stop}
      onContextMenu={(event) => event.preventDefault()}
      onKeyDown={(event) => {
        if ((event.key === "Enter" || event.key === " ") && !event.repeat) begin();
      }}
      onKeyUp={stop}
      onBlur={stop}
    >
      <span className="hold-fill" aria-hidden="true" />
      <span className="hold-label">{children}</span>
      <small className="hold-hint">{hint}</small>
    </button>
  );
}
