import { type KeyboardEvent, type Ref, useEffect, useRef } from "react";
import { words } from "../../words";
import "./stepper.css";

interface Props {
  what: string;
  value: string;
  caption?: string;
  size?: "large" | "small";
  onStep: (direction: 1 | -1) => void;
  onType: () => void;
  fieldRef?: Ref<HTMLButtonElement>;
}

/** A value with a step down and a step up that run when held; its middle opens typing. */
export function Stepper({ what, value, caption, size = "small", onStep, onType, fieldRef }: Props) {
  const keys = (event: KeyboardEvent) => {
    const direction = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key] as 1 | -1 | undefined;
    if (!direction) return;
    event.preventDefault();
    onStep(direction);
  };
  return (
    <div className={`stepper stepper-${size}`} role="group" aria-label={what}>
      <HeldButton label={words.bench.shorter(what)} onPress={() => onStep(-1)}>
        −
      </HeldButton>
      <button
        type="button"
        ref={fieldRef}
        className="stepper-value"
        aria-label={words.bench.typeIt(what, value)}
        onClick={onType}
        onKeyDown={keys}
      >
        <span className="stepper-number">{value}</span>
        <span className="stepper-caption">{caption ?? what.toLowerCase()}</span>
      </button>
      <HeldButton label={words.bench.longer(what)} onPress={() => onStep(1)}>
        +
      </HeldButton>
    </div>
  );
}

const FIRST_REPEAT_MS = 400;
const REPEAT_MS = 90;

/** Presses once, then keeps pressing while held. */
function HeldButton({ label, onPress, children }: { label: string; onPress: () => void; children: string }) {
  const timer = useRef<number | undefined>(undefined);
  const press = useRef(onPress);
  useEffect(() => {
    press.current = onPress;
  });
  const release = () => window.clearTimeout(timer.current);
  useEffect(() => release, []);
  const repeat = (wait: number) => {
    timer.current = window.setTimeout(() => {
      press.current();
      repeat(REPEAT_MS);
    }, wait);
  };
  return (
    <button
      type="button"
      className="stepper-step"
      aria-label={label}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        press.current();
        repeat(FIRST_REPEAT_MS);
      }}
      onPointerUp={release}
      onPointerLeave={release}
      onPointerCancel={release}
      onContextMenu={(event) => event.preventDefault()}
      // A pointer has pressed already; a click without one comes from the keyboard or a reader.
      onClick={(event) => {
        if (event.detail === 0) press.current();
      }}
    >
      <span aria-hidden="true">{children}</span>
    </button>
  );
}
