import { useRef } from "react";
import { type Glass } from "../../state/bench";
import { useDrag } from "../../ui/useDrag";
import { words } from "../../words";
import { shortStops } from "../../words/times";

interface Props {
  glass: Glass;
  /** How many stops a graduated one takes where it is dark; it adds none to the time. */
  graded: number;
  /** What kind it is or how it goes on, in a word. */
  short: string;
  number: number | null;
  on: boolean;
  wasOn: boolean;
  disabled: boolean;
  /** The one of the shelf that a Tab reaches; the arrow keys go on from it. */
  reached: boolean;
  onToggle: () => void;
}

/** So high is a filter of the most stops one draws [px]. */
const HIGHEST = 44;
const MOST_STOPS = 15;
const WIDE = 40;

function heightOf(stops: number): number {
  return Math.max(4, (Math.min(stops, MOST_STOPS) / MOST_STOPS) * HIGHEST);
}

/** A filter on the shelf: as tall as its stops, as grey as it is dense; a dashed ghost while it is on the lens. */
export function FilterBlock({ glass, graded, short, number, on, wasOn, disabled, reached, onToggle }: Props) {
  const dropped = useDropOnStaff(() => {
    if (!on) onToggle();
  });
  const { kind } = glass;
  const strength = strengthText(glass, on);
  const high = heightOf(kind === "graduated" ? graded : kind === "variable" ? glass.low : glass.stops);
  const reach = kind === "variable" ? heightOf(glass.high) : high;
  return (
    <button
      type="button"
      className={`block-tile ${on ? "block-tile-on" : ""}`}
      aria-pressed={on}
      aria-label={kind === "graduated" ? glass.name : words.bench.tileName(glass.name, strength)}
      title={glass.name}
      disabled={disabled && !on}
      tabIndex={reached ? 0 : -1}
      data-block
      {...dropped.handlers}
      onClick={() => {
        if (!dropped.took()) onToggle();
      }}
    >
      {number !== null && (
        <kbd className="block-key" aria-hidden="true">
          {number}
        </kbd>
      )}
      <span className="block-stops-said">{kind === "graduated" ? shortStops(graded) : strength}</span>
      <svg
        width={WIDE}
        height={reach}
        aria-hidden="true"
        className={`shade-${Math.min(4, Math.floor(glass.stops / 3))}`}
      >
        {kind === "variable" && <rect className="block-reach" x="0.5" y="0.5" width={WIDE - 1} height={reach} />}
        {kind === "graduated" ? (
          <path className="block-body" d={`M0 0 H${WIDE} L0 ${high} Z`} fill="var(--shade-2)" />
        ) : (
          <rect className="block-body" x="0.5" y={reach - high} width={WIDE - 1} height={high} />
        )}
      </svg>
      <span className="block-word">{on ? words.bench.tileOn : wasOn ? words.bench.tileWasOn : short}</span>
    </button>
  );
}

/** A block pulled onto the staff is put on; whatever is let go elsewhere stays where it was. */
function useDropOnStaff(onDrop: () => void) {
  const done = useRef(false);
  const { handlers } = useDrag(
    ({ x, y }) => Math.hypot(x, y),
    (far, event) => {
      done.current = far >= PULLED_PX;
      if (!done.current) return;
      const under = document.elementFromPoint(event.clientX, event.clientY);
      if (under?.closest("[data-drop=staff]")) onDrop();
    },
  );
  return {
    handlers,
    took: () => {
      const was = done.current;
      done.current = false;
      return was;
    },
  };
}

/** Less than this is a press that slipped. */
const PULLED_PX = 24;

function strengthText(glass: Glass, on: boolean): string {
  if (glass.kind === "graduated") return words.bench.grad;
  if (glass.kind === "variable" && (!on || glass.open !== undefined))
    return `${shortStops(glass.low)}–${shortStops(glass.high)}`;
  return shortStops(glass.stops);
}
