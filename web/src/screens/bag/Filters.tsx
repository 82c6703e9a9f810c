import { type KeyboardEvent, type ReactNode, useState } from "react";
import type { Known } from "../../questions/log";
import type { ItemOf } from "../../state/kit";
import { bagWords } from "../../words/bag";
import { tenthStops } from "../../words/times";
import { BlockScale, FilterBlock } from "./FilterBlock";
import { strengthOf } from "./sentences";
import { type Place, sortable, stepped } from "./sorting";

interface Props {
  filters: ItemOf<"glass">[];
  known: readonly Known[];
  open: string | null;
  onOpen: (id: string | null) => void;
  onMoved: (place: Place) => void;
  children: ReactNode;
}

const MOUNTS = Object.keys(bagWords.mounts);

/** The filters as blocks on one scale, grouped by how they go on; the one that is touched opens under its group. */
export function Filters({ filters, known, open, onOpen, onMoved, children }: Props) {
  const groups = MOUNTS.map((mount) => {
    const group = filters.filter((item) => item.facts.mount === mount);
    if (group.length === 0) return null;
    return (
      <section key={mount} className="filter-group" aria-label={bagWords.mounts[mount]}>
        <h3>{bagWords.mounts[mount]}</h3>
        <ul className="filter-row">
          <li className="block-scales" aria-hidden="true">
            <BlockScale />
          </li>
          {group.map((item) => (
            <Tile
              key={item.id}
              item={item}
              group={group}
              number={filters.indexOf(item) + 1}
              known={known.find((each) => each.id === item.id)}
              open={item.id === open}
              onOpen={() => onOpen(item.id === open ? null : item.id)}
              onMoved={onMoved}
            />
          ))}
        </ul>
        {group.some((item) => item.id === open) && children}
      </section>
    );
  });
  return <div className="filter-groups">{groups}</div>;
}

interface TileProps {
  item: ItemOf<"glass">;
  group: ItemOf<"glass">[];
  number: number;
  known: Known | undefined;
  open: boolean;
  onOpen: () => void;
  onMoved: (place: Place) => void;
}

function Tile({ item, group, number, known, open, onOpen, onMoved }: TileProps) {
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
        <FilterBlock item={item} known={known} />
        <strong>
          {strength}
          {number <= 9 && <kbd aria-hidden="true">{number}</kbd>}
        </strong>
        <span className="tile-name">{item.name}</span>
        <span className="quiet">{summary}</span>
      </button>
    </li>
  );
}

/** What is known of its strength, in a few words. */
function saidUnder({ facts }: ItemOf<"glass">, known: Known | undefined): string {
  if (facts.kind === "graduated") return bagWords.tile.graduated(facts.transition);
  const differs = known && Math.abs(known.mean - (facts.offset ?? 0)) >= 0.1 && facts.kind === "solid";
  if (differs) return bagWords.tile.frames(tenthStops(known.mean));
  return facts.offset === null ? bagWords.tile.label : bagWords.tile.measured(String(facts.stops));
}
