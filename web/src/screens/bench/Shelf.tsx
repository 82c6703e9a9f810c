import { type PointerEvent, useRef } from "react";
import { Button } from "react-bootstrap";
import { type Glass, type Laid, MOST_GLASSES, wasOn } from "../../state/bench";
import { remember } from "../../state/habits";
import { words } from "../../words";
import { shortStops } from "../../words/times";
import "./shelf.css";

interface Props {
  laid: Laid;
  /** How many stops are needed, while the filters are what is worked out. */
  needed: number | null;
  onToggle: (id: string) => void;
  onTurn: (id: string, stops: number) => void;
  onAdd: () => void;
  /** Names what is on as one; null where there is nothing to name. */
  onTogether: (() => void) | null;
  onDraw: () => void;
  drawn: boolean;
  /** Asks which filters somebody owns; null where that is known. */
  onOwn: (() => void) | null;
}

/** The filters in the bag: a tap, its number, or a drag onto the staff puts one on the lens. */
export function Shelf({ laid, needed, onToggle, onTurn, onAdd, onTogether, onDraw, drawn, onOwn }: Props) {
  const { bag } = laid;
  const full = laid.stack.length >= MOST_GLASSES;
  const turned = laid.stack.filter((glass) => glass.kind === "variable");
  return (
    <section className="bench-shelf" aria-labelledby="shelf-title">
      <div className="heading-line">
        <h2 id="shelf-title">{words.bench.glass}</h2>
        {needed !== null && <strong>{words.bench.needed(shortStops(needed))}</strong>}
        {onTogether && needed === null && (
          <Button variant="link" className="plain-link" onClick={onTogether}>
            {words.nameStack.open}
          </Button>
        )}
        <Button variant="link" className="plain-link draw-toggle" aria-pressed={drawn} onClick={onDraw}>
          {words.looks.drawing.open}
        </Button>
      </div>
      <div className="shelf" role="group" aria-label={words.bench.glass}>
        {bag.map((glass, place) => (
          <Tile
            key={glass.id}
            glass={glass}
            short={shortName(laid, glass)}
            number={place < 9 ? place + 1 : null}
            on={laid.stack.includes(glass)}
            wasOn={wasOn(laid, glass)}
            disabled={full}
            onToggle={() => onToggle(glass.id)}
          />
        ))}
        <button type="button" className="tile tile-add" onClick={onAdd} disabled={full}>
          {words.bench.addGlass}
        </button>
      </div>
      {onOwn && (
        <p className="lent">
          <span>{words.ownBag.ask}</span>
          <Button variant="link" className="plain-link" onClick={onOwn}>
            {words.ownBag.open}
          </Button>
          <Button variant="link" className="plain-link" onClick={() => remember({ bagAsked: true })}>
            {words.ownBag.skip}
          </Button>
        </p>
      )}
      {turned.map((glass) => (
        <div key={glass.id} className="turn" role="group" aria-label={words.bench.turn(glass.name)}>
          <span>
            {glass.open === undefined
              ? words.bench.turned(glass.name, glass.stops.toFixed(1))
              : words.bench.notTurned(glass.name)}
          </span>
          <Button
            variant="quiet"
            aria-label={words.bench.weaker}
            onClick={() => onTurn(glass.id, glass.stops - TURN_STOPS)}
          >
            −
          </Button>
          <Button
            variant="quiet"
            aria-label={words.bench.denser}
            onClick={() => onTurn(glass.id, glass.stops + TURN_STOPS)}
          >
            +
          </Button>
        </div>
      ))}
      {full && <p className="quiet shelf-full">{words.addGlass.full}</p>}
    </section>
  );
}

const TURN_STOPS = 1 / 3;

/** What kind it is or how it goes on, in a word; a graduated one says how its edge runs. */
function shortName({ items }: Laid, glass: Glass): string {
  const facts = items.find((item) => item.id === glass.id)?.facts;
  if (glass.kind === "graduated") return `${facts?.transition ?? ""} ${shortStops(facts?.stops ?? 0)}`;
  if (glass.members.length > 0) return glass.name;
  return words.bench.tile[glass.kind] ?? words.bench.tile[facts?.mount ?? ""] ?? glass.name;
}

interface TileProps {
  glass: Glass;
  short: string;
  number: number | null;
  on: boolean;
  wasOn: boolean;
  disabled: boolean;
  onToggle: () => void;
}

function Tile({ glass, short, number, on, wasOn, disabled, onToggle }: TileProps) {
  const dropped = useDropOnStaff(() => {
    if (!on) onToggle();
  });
  return (
    <button
      type="button"
      className={`tile tile-${glass.kind} ${on ? "tile-on" : ""} ${on && wasOn ? "tile-in" : ""}`}
      aria-pressed={on}
      aria-label={glass.kind === "graduated" ? glass.name : words.bench.tileName(glass.name, strengthText(glass, on))}
      title={glass.name}
      disabled={disabled && !on}
      {...dropped.handlers}
      onClick={() => {
        if (!dropped.took()) onToggle();
      }}
    >
      {number !== null && (
        <kbd className="tile-key" aria-hidden="true">
          {number}
        </kbd>
      )}
      <span className="tile-stops">{strengthText(glass, on)}</span>
      <span className="tile-name">{wasOn && on ? words.bench.tileMetered : wasOn ? words.bench.tileWasOn : short}</span>
    </button>
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
  if (glass.kind === "variable" && (!on || glass.open !== undefined))
    return `${shortStops(glass.low)}–${shortStops(glass.high)}`;
  return shortStops(glass.stops);
}
