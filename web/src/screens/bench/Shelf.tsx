import { type PointerEvent, useRef } from "react";
import { Button } from "react-bootstrap";
import { words } from "../../words";
import { Pin } from "./Pin";
import { type Glass, type Laid, MOST_GLASSES } from "../../state/bench";

interface Props {
  laid: Laid;
  onToggle: (id: string) => void;
  onToggleInReading: (id: string) => void;
  onTurn: (id: string, stops: number) => void;
  onAdd: () => void;
  onDraw: () => void;
  drawn: boolean;
  float: () => void;
}

/** The glass in the bag: a tap, its number, or a drag onto the staff puts it on the lens. */
export function Shelf({ laid, onToggle, onToggleInReading, onTurn, onAdd, onDraw, drawn, float }: Props) {
  const { bag, bench } = laid;
  const full = laid.stack.length >= MOST_GLASSES;
  return (
    <div className="shelf-part">
      <div className="heading-line">
        <h2>{words.bench.glass}</h2>
        <Button variant="quiet" size="sm" className="draw-toggle" aria-pressed={drawn} onClick={onDraw}>
          {words.looks.drawing.open}
        </Button>
        <Button variant="quiet" size="sm" className="tile-add" onClick={onAdd} disabled={full}>
          {words.bench.addGlass}
        </Button>
        <Pin what={words.pins.what.stack} floats={bench.floating === "stack"} onFloat={float} />
      </div>
      <div className="shelf" role="group" aria-label={words.bench.glass}>
        {bag.map((glass, place) => (
          <Tile
            key={glass.id}
            glass={glass}
            number={place < 9 ? place + 1 : null}
            on={laid.stack.includes(glass)}
            inReading={bench.inReading.includes(glass.id)}
            disabled={full}
            onToggle={() => onToggle(glass.id)}
            onToggleInReading={() => onToggleInReading(glass.id)}
            onTurn={(stops) => onTurn(glass.id, stops)}
          />
        ))}
      </div>
      {full && <p className="quiet shelf-full">{words.addGlass.full}</p>}
    </div>
  );
}

interface TileProps {
  glass: Glass;
  number: number | null;
  on: boolean;
  inReading: boolean;
  disabled: boolean;
  onToggle: () => void;
  onToggleInReading: () => void;
  onTurn: (stops: number) => void;
}

const TURN_STOPS = 0.5;

function Tile({ glass, number, on, inReading, disabled, onToggle, onToggleInReading, onTurn }: TileProps) {
  const dropped = useDropOnStaff(() => {
    if (!on) onToggle();
  });
  const variable = glass.kind === "variable";
  return (
    <div className={`tile tile-${glass.kind} ${on ? "tile-on" : ""} ${inReading ? "tile-in" : ""}`}>
      <button
        type="button"
        className="tile-main"
        aria-pressed={on}
        disabled={disabled && !on}
        {...dropped.handlers}
        onClick={() => {
          if (!dropped.took()) onToggle();
        }}
      >
        <span className="tile-stops">{strengthText(glass, on)}</span>
        <span className="tile-name">{glass.name}</span>
        {number !== null && (
          <kbd className="tile-key" aria-hidden="true">
            {number}
          </kbd>
        )}
      </button>
      {on && variable && (
        <div className="tile-turn" role="group" aria-label={words.bench.turn(glass.name)}>
          <button type="button" aria-label={words.bench.weaker} onClick={() => onTurn(glass.stops - TURN_STOPS)}>
            −
          </button>
          <button type="button" aria-label={words.bench.denser} onClick={() => onTurn(glass.stops + TURN_STOPS)}>
            +
          </button>
        </div>
      )}
      {on && glass.kind !== "graduated" && (
        <button
          type="button"
          className="tile-foot"
          aria-pressed={inReading}
          aria-label={words.bench.wasOnFor(glass.name)}
          title={words.bench.wrongCosts(shortStops(glass.stops + (glass.offset ?? 0)))}
          onClick={onToggleInReading}
        >
          {inReading ? words.bench.tile.in : words.bench.wasOn}
        </button>
      )}
    </div>
  );
}

/** A tile pulled onto the staff is put on; whatever is let go elsewhere stays where it was. */
function useDropOnStaff(onDrop: () => void) {
  const start = useRef<{ x: number; y: number } | null>(null);
  const done = useRef(false);
  return {
    took: () => {
      const was = done.current;
      done.current = false;
      return was;
    },
    handlers: {
      onPointerDown: (event: PointerEvent) => {
        start.current = { x: event.clientX, y: event.clientY };
        done.current = false;
        event.currentTarget.setPointerCapture(event.pointerId);
      },
      onPointerUp: (event: PointerEvent) => {
        const from = start.current;
        start.current = null;
        if (!from || Math.hypot(event.clientX - from.x, event.clientY - from.y) < 24) return;
        done.current = true;
        const under = document.elementFromPoint(event.clientX, event.clientY);
        if (under?.closest("[data-drop=staff]")) onDrop();
      },
    },
  };
}

function strengthText(glass: Glass, on: boolean): string {
  if (glass.kind === "graduated") return words.bench.grad;
  if (glass.kind === "variable" && !on) return `${shortStops(glass.low)}–${shortStops(glass.high)}`;
  return shortStops(glass.stops);
}

function shortStops(stops: number): string {
  return stops.toFixed(1).replace(/\.0$/, "");
}
