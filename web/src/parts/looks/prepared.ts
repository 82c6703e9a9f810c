/** The times whose drawings are prepared for a pennant under the hand [s], three stops apart. */
export const PREPARED = [1 / 64, 1 / 8, 1, 8, 64, 512];

/** Between which two prepared drawings a time lies: the place of the lower one, and the share of the upper one. */
export function blendOf(seconds: number): { under: number; share: number } {
  const stops = Math.log2(seconds / (PREPARED[0] ?? 1)) / 3;
  const under = Math.min(PREPARED.length - 1, Math.max(0, Math.floor(stops)));
  return { under, share: Math.min(1, Math.max(0, stops - under)) };
}
