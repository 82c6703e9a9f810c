import { words } from "../../words";

/** So much [stops] nobody sees. */
const NOTHING = 0.05;

/** How bright or dark a decided time leaves the frame, as it is worth saying; null where that is nothing. */
export function residueText(stops: number): string | null {
  const size = Math.abs(stops);
  if (size < NOTHING) return null;
  const said = size < 0.295 ? size.toFixed(2) : size.toFixed(1);
  return stops > 0 ? words.bench.brighter(said) : words.bench.darker(said);
}
