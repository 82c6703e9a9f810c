import type { Frame } from "../../state/frames";

export type Review = NonNullable<Frame["review"]>;

export const NOTHING: Review = { error_stops: null, defects: [], tasted: [], because: null };

/** How far the scale goes to either side [thirds of a stop]. */
export const WIDEST = 15;
/** As far as it goes at first; once a verdict has come to an end it goes on. */
const FIRST = 6;

/** How far the scale goes for a verdict [thirds]. */
export function scaleEnd(thirds: number | null): number {
  return thirds !== null && Math.abs(thirds) >= FIRST ? WIDEST : FIRST;
}
