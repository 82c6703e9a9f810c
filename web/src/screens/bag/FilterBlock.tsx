import type { ItemOf } from "../../state/kit";
import type { Known } from "../../questions/log";

const WIDTH = 92;
const HIGH = 104;
const GROUND = HIGH - 4;
/** As far as a hand goes with filters [stops]. */
const MOST = 16;
const [LEFT, BROAD] = [26, 46];
const MARKS = [5, 10, 15];

/** The numbers on the scale, once for a row of blocks. */
export function BlockScale() {
  return (
    <svg className="block-scale" viewBox={`0 0 24 ${HIGH}`} aria-hidden>
      {MARKS.map((each) => (
        <text key={each} x={20} y={y(each) + 4} textAnchor="end">
          {each}
        </text>
      ))}
    </svg>
  );
}

/** A filter as a block on a small staff: its label outlined, what it measures filled with its doubt on top. */
export function FilterBlock({ item, known }: { item: ItemOf<"glass">; known: Known | undefined }) {
  const { kind, stops, stops_max, offset, give_or_take, tolerance } = item.facts;
  const measured = offset !== null && kind !== "graduated";
  const base = stops + (offset ?? 0);
  const doubt = give_or_take ?? tolerance;
  const shade = stops >= 9 ? 3 : stops >= 5 ? 2 : 1;
  const block = (from: number, to: number, name: string) => (
    <rect className={name} x={LEFT} width={BROAD} y={y(to)} height={Math.max(0, y(from) - y(to))} />
  );
  const clean = item.facts.usable_end.map(([, end = 0]) => end);
  return (
    <svg className="filter-block" viewBox={`0 0 ${WIDTH} ${HIGH}`} aria-hidden>
      {MARKS.map((each) => (
        <line key={each} className="block-mark" x1={0} x2={WIDTH} y1={y(each)} y2={y(each)} />
      ))}
      <line className="block-ground" x1={0} x2={WIDTH} y1={GROUND} y2={GROUND} />
      <line className="block-pole" x1={18} x2={18} y1={2} y2={GROUND} />
      {measured && block(0, Math.max(0, base - doubt), `strength-${shade}`)}
      {measured && block(Math.max(0, base - doubt), base + doubt, "strength-doubt")}
      {kind === "graduated" && <path className="strength-grad" d={`M${LEFT} ${GROUND}V${y(stops)}H${LEFT + BROAD}Z`} />}
      {stops_max !== null && block(stops, stops_max, "strength-range")}
      {clean.map((end) => (
        <line key={end} className="strength-clean" x1={LEFT - 4} x2={LEFT + BROAD + 4} y1={y(end)} y2={y(end)} />
      ))}
      {block(0, stops, measured || kind === "graduated" ? "strength-label" : "strength-label strength-unknown")}
      {known && kind === "solid" && (
        <g className="strength-says">
          <line
            x1={LEFT + BROAD + 8}
            x2={LEFT + BROAD + 8}
            y1={y(stops + known.mean + 2 * known.sd)}
            y2={y(stops + known.mean - 2 * known.sd)}
          />
          <path d={`M${LEFT + BROAD + 2} ${y(stops + known.mean)}l8 -5v10z`} />
        </g>
      )}
    </svg>
  );
}

function y(stops: number): number {
  return GROUND - (Math.min(MOST, Math.max(0, stops)) / MOST) * (GROUND - 4);
}
