import { type KeyboardEvent, useState } from "react";
import { Button } from "react-bootstrap";
import { type Glass, type Laid, MOST_GLASSES, wasOn } from "../../state/bench";
import { remember } from "../../state/habits";
import { Value } from "../../ui/kinds/Value";
import { words } from "../../words";
import { shortStops } from "../../words/times";
import { FilterBlock } from "../../parts/shelf/FilterBlock";
import "./shelf.css";

interface Props {
  laid: Laid;
  /** How many stops are needed, while the filters are what is worked out. */
  needed: number | null;
  onToggle: (id: string) => void;
  onTurn: (id: string, stops: number) => void;
  onAdd: () => void;
  /** Asks which filters somebody owns; null where that is known. */
  onOwn: (() => void) | null;
}

/** The filters in the bag: a tap, its number, or a drag onto the staff puts one on the lens. */
export function Shelf({ laid, needed, onToggle, onTurn, onAdd, onOwn }: Props) {
  const { bag } = laid;
  const full = laid.stack.length >= MOST_GLASSES;
  const turned = laid.stack.filter((glass) => glass.kind === "variable");
  const [reached, setReached] = useState(0);
  const at = Math.min(reached, bag.length);
  const along = (event: KeyboardEvent<HTMLDivElement>) => {
    const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const next = Math.min(bag.length, Math.max(0, at + by));
    setReached(next);
    event.currentTarget.querySelectorAll<HTMLElement>("[data-block]")[next]?.focus();
  };
  return (
    <section className="bench-shelf" aria-labelledby="shelf-title">
      <div className="shelf-head">
        <h2 id="shelf-title">{words.bench.filters}</h2>
        {needed !== null ? (
          <strong>{words.bench.needed(shortStops(needed))}</strong>
        ) : onOwn ? (
          <p className="lent">
            <span className="quiet">{words.ownBag.ask}</span>
            <Button variant="quiet" onClick={onOwn}>
              {words.ownBag.open}
            </Button>
            <Button variant="quiet" onClick={() => remember({ bagAsked: true })}>
              {words.ownBag.skip}
            </Button>
          </p>
        ) : (
          <span className="quiet">{onLensText(laid.stack)}</span>
        )}
        {full && <span className="quiet">{words.addGlass.full}</span>}
      </div>
      <div className="shelf-line" role="toolbar" aria-label={words.bench.glass} onKeyDown={along}>
        {turned.map((glass) => (
          <div key={glass.id} className="turn" role="group" aria-label={words.bench.turn(glass.name)}>
            <Value
              what={words.bench.turnOf(glass.name)}
              value={glass.open === undefined ? glass.stops.toFixed(1) : "?"}
              caption={words.bench.turnedTo}
              onStep={(by) => onTurn(glass.id, glass.stops + by * TURN_STOPS)}
              onType={() => onTurn(glass.id, glass.stops + TURN_STOPS)}
            />
          </div>
        ))}
        {bag.map((glass, place) => (
          <FilterBlock
            key={glass.id}
            glass={glass}
            graded={laid.items.find(({ id }) => id === glass.id)?.facts.stops ?? 0}
            short={shortName(laid, glass)}
            number={place < 9 ? place + 1 : null}
            on={laid.stack.includes(glass)}
            wasOn={wasOn(laid, glass)}
            disabled={full}
            reached={place === at}
            onToggle={() => {
              setReached(place);
              onToggle(glass.id);
            }}
          />
        ))}
        <Button
          variant="quiet"
          className="shelf-add"
          data-block
          tabIndex={at === bag.length ? 0 : -1}
          onClick={onAdd}
          disabled={full}
        >
          {words.bench.addGlass}
        </Button>
      </div>
    </section>
  );
}

const TURN_STOPS = 1 / 3;

/** What is on the lens, and what it comes to, in a line. */
function onLensText(stack: Glass[]): string {
  const counted = stack.filter(({ kind }) => kind !== "graduated");
  if (stack.length === 0) return words.bench.nothingOn;
  const stops = counted.reduce((sum, glass) => sum + glass.stops + (glass.offset ?? 0), 0);
  if (counted.some(({ open }) => open !== undefined))
    return words.bench.onLens(stack.map(({ name }) => name).join(", "));
  return words.bench.onLensStops(shortStops(stops));
}

/** What kind it is or how it goes on, in a word; a graduated one says how its edge runs. */
function shortName({ items }: Laid, glass: Glass): string {
  const facts = items.find((item) => item.id === glass.id)?.facts;
  if (glass.kind === "graduated") return `${facts?.transition ?? ""} ${words.bench.grad}`;
  if (glass.members.length > 0) return glass.name;
  return words.bench.tile[glass.kind] ?? words.bench.tile[facts?.mount ?? ""] ?? glass.name;
}
