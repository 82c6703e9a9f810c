/** The clean ends with one more, or another one at its focal length, by focal length. */
export function withEnd(ends: readonly number[][], end: readonly number[]): (readonly number[])[] {
  return [...ends.filter(([focal]) => focal !== end[0]), end].toSorted(([a = 0], [b = 0]) => a - b);
}
