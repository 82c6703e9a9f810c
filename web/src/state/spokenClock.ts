/** What a clock that speaks says at a whole second; null is silence. */
export type Spoken = { open: true } | { minutes: number } | { seconds: number } | { close: true };

const LAST_S = 10;
const MINUTE = 60;

/**
 * Once opened, each minute to go, each of the last ten seconds, and the end; without an end each minute that has been.
 * `before` is the whole second that was looked at last: one that a sleeping page has missed is not said late.
 */
export function spokenAt(
  left: number | null,
  elapsed: number,
  before: { left: number | null; elapsed: number } | null,
): Spoken | null {
  if (before === null) return elapsed < 2 ? { open: true } : null;
  if (left === null) {
    const minutes = Math.floor(elapsed / MINUTE);
    return minutes > Math.floor(before.elapsed / MINUTE) ? { minutes } : null;
  }
  const was = before.left ?? left;
  if (left <= 0) return was > 0 ? { close: true } : null;
  if (left >= was) return null;
  if (left <= LAST_S) return { seconds: left };
  return left % MINUTE === 0 ? { minutes: left / MINUTE } : null;
}
