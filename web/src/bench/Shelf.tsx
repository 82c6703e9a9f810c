import { Button } from "react-bootstrap";
import { words } from "../words";
import { type Bench, MOST_GLASSES } from "./state";

interface Props {
  bench: Bench;
  onToggle: (id: string) => void;
  onToggleInReading: (id: string) => void;
  onRemove: (id: string) => void;
  onAdd: () => void;
}

/** The glass in the bag: a tap or its number puts it on the lens or takes it off. */
export function Shelf({ bench, onToggle, onToggleInReading, onRemove, onAdd }: Props) {
  const full = bench.on.length >= MOST_GLASSES;
  return (
    <div className="shelf" role="group" aria-label={words.bench.glass}>
      {bench.bag.map((glass, place) => {
        const on = bench.on.includes(glass.id);
        const inReading = bench.inReading.includes(glass.id);
        return (
          <div key={glass.id} className={`tile ${on ? "tile-on" : ""} ${inReading ? "tile-in" : ""}`}>
            <button
              type="button"
              className="tile-main"
              aria-pressed={on}
              disabled={full && !on}
              onClick={() => onToggle(glass.id)}
            >
              <span className="tile-stops">{stopsText(glass.stops)}</span>
              <span className="tile-name">{glass.name}</span>
              {place < 9 && (
                <kbd className="tile-key" aria-hidden="true">
                  {place + 1}
                </kbd>
              )}
            </button>
            {on && (
              <button
                type="button"
                className="tile-foot"
                aria-pressed={inReading}
                aria-label={words.bench.wasOnFor(glass.name)}
                onClick={() => onToggleInReading(glass.id)}
              >
                {inReading ? words.bench.tile.in : words.bench.wasOn}
              </button>
            )}
            {!on && !glass.id.startsWith("starter-") && (
              <button
                type="button"
                className="tile-foot tile-remove"
                aria-label={words.bench.removeGlass(glass.name)}
                onClick={() => onRemove(glass.id)}
              >
                {words.log.remove}
              </button>
            )}
          </div>
        );
      })}
      <Button variant="quiet" className="tile-add" onClick={onAdd} disabled={full}>
        {words.bench.addGlass}
      </Button>
      {full && <p className="quiet shelf-full">{words.addGlass.full}</p>}
    </div>
  );
}

function stopsText(stops: number): string {
  return stops.toFixed(1).replace(/\.0$/, "");
}
