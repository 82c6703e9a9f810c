import type { ItemOf } from "../../state/kit";

const WIDTH = 240;
const HEIGHT = 12;
/** As far as a hand goes with filters [stops]. */
const MOST = 16;

/** A filter lying down: its label outlined, what it measures filled with its doubt behind. The words beside it say it all. */
export function StrengthBar({ item }: { item: ItemOf<"glass"> }) {
  const { stops, stops_max, offset, give_or_take } = item.facts;
  const x = (at: number) => (Math.min(MOST, Math.max(0, at)) / MOST) * WIDTH;
  const measured = offset ?? null;
  const doubt = give_or_take ?? 0.33;
  const shade = stops >= 9 ? 3 : stops >= 5 ? 2 : 1;
  return (
    <svg className="strength-bar" viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none" aria-hidden>
      {measured !== null && (
        <>
          <rect className="strength-doubt" x={0} width={x(stops + measured + doubt)} y={2} height={HEIGHT - 4} />
          <rect className={`strength-${shade}`} x={0} width={x(stops + measured - doubt)} y={2} height={HEIGHT - 4} />
        </>
      )}
      {stops_max != null && (
        <rect className="strength-range" x={x(stops)} width={x(stops_max) - x(stops)} y={1} height={HEIGHT - 2} />
      )}
      <rect className="strength-label" x={1} width={Math.max(1, x(stops) - 1)} y={1} height={HEIGHT - 2} />
      {[5, 10, 15].map((each) => (
        <line key={each} className="strength-tick" x1={x(each)} x2={x(each)} y1={0} y2={HEIGHT} />
      ))}
    </svg>
  );
}
