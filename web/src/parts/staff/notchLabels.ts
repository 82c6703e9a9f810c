import type { Axis } from "./axis";
import type { Part } from "./parts";

/** How far two lines of writing stand apart [px]. */
export const LINE = 17;

/** The middle of a move, pushed off its neighbour's label when both moves are small. */
export function labelHeight(moves: Part[], place: number, scale: Axis, answer: number): number {
  // The answer's own line would strike a label through.
  const clear = (height: number) => (Math.abs(height - answer) < LINE / 2 ? answer + LINE * 0.7 : height);
  const middle = (part: Part) => (scale(part.from) + scale(part.to)) / 2;
  const here = moves[place];
  const before = moves[place - 1];
  if (!here) return 0;
  const own = middle(here);
  if (!before || Math.abs(own - middle(before)) >= LINE) return clear(own);
  return clear(middle(before) + (own < middle(before) ? -LINE : LINE));
}
