import { type CSSProperties, type KeyboardEvent, useState } from "react";
import type { Known } from "../../questions/log";
import type { ItemOf } from "../../state/kit";
import { useMeasured } from "../../ui/useMeasured";
import { bagWords } from "../../words/bag";
import { tenthStops } from "../../words/times";
import { BlockScale, ScaleBlock } from "./ScaleBlock";
import { heightFor } from "./blockHeight";
import { strengthOf } from "./sentences";
import { type Place, sortable, stepped } from "./sorting";

interface Props {
  filters: ItemOf<"glass">[];
  known: readonly Known[];
  open: string | null;
  onOpen: (id: string | null) => void;
  onMoved: (place: Place) => void;
}

/** How high a stop is drawn on a wide page and on a narrow one [px]. */
const WIDE_STOP = 20;
const NARROW_STOP = 11;
const NARROW = 620;

const MOUNTS = Object.keys(bagWords.mounts);

/** The filters as blocks on one scale, side by side by how they go on. */
export function Filters({ filters, known, open, onOpen, onMoved }: Props) {
  const [stage, size] = useMeasured<HTMLDivElement>();
  const stopPx = (size?.width ?? NARROW) < NARROW ? NARROW_STOP : WIDE_STOP;
  const groups = MOUNTS.map((mount) => {
    const group = filters.filter((item) => item.facts.mount === mount);
    if (group.length === 0) return null;
    return (
      <section key={mount} className="filter-group" aria-label={bagWords.mounts[mount]}>
        <h3>{bagWords.mounts[mount]}</h3>
        <ul className="filter-row">
          {group.map((item) => (
            <Tile
              key={item.id}
              item={item}
              group={group}
              number={filters.indexOf(item) + 1}
              known={known.find((each) => each.id === item.id)}
              stopPx={stopPx}
              open={item.id === open}
              onOpen={() => onOpen(item.id === open ? null : item.id)}
              onMoved={onMoved}
            />
          ))}
        </ul>
      </section>
    );
  });
  return (
    <div className="filter-staff" ref={stage}>
      <BlockScale stopPx={stopPx} />
      <div className="filter-groups" style={{ "--high": `${heightFor(stopPx)}px` } as CSSProperties}>
        {groups}
      </div>
    </div>
  );
}

interface TileProps {
  item: ItemOf<"glass">;
  group: ItemOf<"glass">[];
  number: number;
  known: Known | undefined;
  stopPx: number;
  open: boolean;
  onOpen: () => void;
  onMoved: (place: Place) => void;
}

function Tile({ item, group, number, known, stopPx, open, onOpen, onMoved }: TileProps) {
  const [over, setOver] = useState(false);
  const strength = bagWords.stops(strengthOf(item));
  const summary = saidUnder(item, known);
  const ids = group.map((each) => each.id);
  const keys = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key] as -1 | 1 | undefined;
    if (!event.altKey || by === undefined) return;
    event.preventDefault();
    const place = stepped(item.id, ids, by);
    if (place) onMoved(place);
  };
  const { handle, target } = sortable(item.id, ids, setOver, onMoved);
  return (
    <li data-over={over || undefined} {...handle} {...target}>
      <button
        type="button"
        className="filter-tile"
        aria-expanded={open}
        aria-label={`${bagWords.tile.name(item.name, strength)}; ${summary}`}
        aria-keyshortcuts="Alt+ArrowLeft Alt+ArrowRight"
        onClick={onOpen}
        onKeyDown={keys}
      >
        <ScaleBlock item={item} known={known} stopPx={stopPx} />
        {number <= 9 && (
          <kbd className="block-key" aria-hidden="true">
            {number}
          </kbd>
        )}
        <span className="tile-name">{item.name}</span>
        <span className={differs(item, known) ? "tile-says" : "quiet"}>{summary}</span>
      </button>
    </li>
  );
}

/** Whether frames say another strength than the one that counts. */
function differs({ facts }: ItemOf<"glass">, known: Known | undefined): known is Known {
  return known !== undefined && facts.kind === "solid" && Math.abs(known.mean - (facts.offset ?? 0)) >= 0.1;
}

/** What is known of its strength, in a few words. */
function saidUnder(item: ItemOf<"glass">, known: Known | undefined): string {
  const { facts } = item;
  if (facts.kind === "graduated") return bagWords.tile.graduated(facts.transition);
  if (differs(item, known)) return bagWords.tile.frames(tenthStops(known.mean));
  return facts.offset === null ? bagWords.tile.label : bagWords.tile.measured(String(facts.stops));
}
