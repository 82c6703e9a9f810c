import { useId } from "react";
import type { Known } from "../../questions/log";
import type { ItemOf } from "../../state/kit";
import { bagWords } from "../../words/bag";
import "../../parts/staff/staff.css";
import { HEAD, heightFor, MOST } from "./blockHeight";
import { strengthOf } from "./sentences";

/** How far apart the scale's numbers stand [stops]. */
const MARK = 3;
const WIDE = 64;
const POLE_X = 46;

/** The one scale that all blocks stand beside. */
export function BlockScale({ stopPx }: { stopPx: number }) {
  const high = heightFor(stopPx);
  return (
    <svg className="staff block-scale" width={POLE_X + 10} height={high} aria-hidden>
      {Array.from({ length: MOST + 1 }, (_, stops) => (
        <line
          key={stops}
          className={stops % MARK === 0 ? "tick" : "third"}
          x1={stops % MARK === 0 ? POLE_X - 9 : POLE_X - 5}
          x2={POLE_X}
          y1={high - 2 - stops * stopPx}
          y2={high - 2 - stops * stopPx}
        />
      ))}
      {Array.from({ length: MOST / MARK + 1 }, (_, each) => (
        <text
          key={each}
          className="tick-label"
          x={POLE_X - 14}
          y={high - 2 - each * MARK * stopPx}
          dy="0.34em"
          textAnchor="end"
        >
          {each * MARK}
        </text>
      ))}
      <text className="tick-label" x={POLE_X + 10} y={12} textAnchor="end">
        {bagWords.scale}
      </text>
      <rect className="pole" x={POLE_X} y={HEAD - 10} width={8} height={high - HEAD + 10} />
    </svg>
  );
}

interface Props {
  item: ItemOf<"glass">;
  known: Known | undefined;
  stopPx: number;
}

/** A filter as a block on the one scale: what it counts as, how far it turns, and in blue what the frames say. */
export function ScaleBlock({ item, known, stopPx }: Props) {
  const hatch = useId();
  const { kind, stops, stops_max, offset, transition } = item.facts;
  const high = heightFor(stopPx);
  const ground = high - 2;
  const counted = kind === "graduated" ? stops : Math.max(0, stops + (offset ?? 0));
  const y = (at: number) => ground - Math.min(MOST, Math.max(0, at)) * stopPx;
  const reach = stops_max === null ? counted : Math.max(counted, stops_max);
  const differs = known && kind === "solid" && Math.abs(known.mean - (offset ?? 0)) >= 0.1;
  const says = differs ? stops + known.mean : null;
  const top = y(Math.max(reach, says ?? 0));
  return (
    <svg
      className={`staff filter-block shade-${Math.min(4, Math.floor(counted / 3))}`}
      width={WIDE + 8}
      height={high}
      aria-hidden
    >
      {kind === "graduated" ? (
        <>
          <path
            className="block-body"
            d={
              transition === "hard"
                ? `M4 ${ground}V${y(counted)}h${WIDE / 2}V${ground}Z`
                : `M4 ${ground}V${y(counted)}h${WIDE}Z`
            }
          />
          <rect className="block-reach" x={4.5} width={WIDE - 1} y={y(counted)} height={ground - y(counted)} />
        </>
      ) : (
        <rect className="block-body" x={4} width={WIDE} y={y(counted)} height={ground - y(counted)} />
      )}
      {kind === "polariser" && (
        <>
          <pattern id={hatch} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line className="hatch-line" y2="7" />
          </pattern>
          <path d={`M4 ${ground}V${y(counted)}h${WIDE}V${ground}Z`} style={{ fill: `url(#${hatch})` }} />
        </>
      )}
      {stops_max !== null && (
        <rect className="block-reach" x={4.5} width={WIDE - 1} y={y(reach)} height={y(counted) - y(reach)} />
      )}
      {item.facts.usable_end.map(([, end = 0]) => (
        <line key={end} className="block-clean" x1={0} x2={WIDE + 8} y1={y(end)} y2={y(end)} />
      ))}
      {says !== null && <line className="block-says" x1={0} x2={WIDE + 8} y1={y(says)} y2={y(says)} />}
      <text className="block-number" x={4 + WIDE / 2} y={top - 8} textAnchor="middle">
        {strengthOf(item)}
      </text>
    </svg>
  );
}
