/** How this machine's clock stands to the server's, as answers tell by the way. */

export interface ClockOff {
  /** Ahead of the server's [ms]; negative is behind. */
  ahead: number;
  /** Known to so much [ms]: the server's stamp has whole seconds, and the way takes its time. */
  within: number;
}

/** A way that took longer tells nothing about clocks [ms]. */
const LONGEST_MS = 3000;
let off: ClockOff | null = null;
const listeners = new Set<() => void>();

/** Learn from an answer to what was asked at `from`; only what nobody can have kept has a stamp of now. */
export function hearClock(request: Request, got: Response, from: number): void {
  const stamp = request.method === "GET" ? null : got.headers.get("Date");
  const to = Date.now();
  if (stamp === null || to - from > LONGEST_MS || to < from) return;
  const ahead = (from + to) / 2 - (Date.parse(stamp) + 500);
  if (Number.isNaN(ahead)) return;
  const before = off;
  off = { ahead, within: 500 + (to - from) / 2 };
  if (before === null || Math.abs(before.ahead - ahead) > before.within + off.within)
    listeners.forEach((tell) => tell());
}

/** Nearer than this nobody is misled [ms]. */
const FAR_MS = 20_000;

/** Whether it is so far off that times mislead. */
export function isFar({ ahead, within }: ClockOff): boolean {
  return Math.abs(ahead) >= FAR_MS + within;
}

export function clockOff(): ClockOff | null {
  return off;
}

export function onClock(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
