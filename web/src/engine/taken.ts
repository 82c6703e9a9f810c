/** How far it has come that everything works without a signal; what does it (takeAlong.ts) is fetched when it is needed. */

/** What a browser notes once everything is here. */
export const TAKEN = "jackstaff_taken_along";
const HELD_BACK = "jackstaff_held_back";

type Stage = "none" | "fetching" | "starting" | "ready" | "failed";

export interface TakenAlong {
  stage: Stage;
  /** Fetched so far, and in all where that is known [bytes]. */
  got: number;
  of: number | null;
  /** Whether a newer build waits to be taken. */
  newer: boolean;
  /** Whether another page took a newer build, of which this page is not made. */
  passed: boolean;
  /** Whether the server was there when it was last asked. */
  signal: boolean;
}

let now: TakenAlong = { stage: "none", got: 0, of: null, newer: false, passed: false, signal: true };
const listeners = new Set<() => void>();
export function show(part: Partial<TakenAlong>): void {
  now = { ...now, ...part };
  listeners.forEach((listener) => listener());
}

export function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

export function takenAlong(): TakenAlong {
  return now;
}

/** Whether this browser can: it needs a secure page. */
export function canTake(): boolean {
  return "serviceWorker" in navigator && "caches" in globalThis;
}

/** Whether somebody said that it is not to be fetched by itself. */
export function isHeldBack(): boolean {
  return noted(HELD_BACK);
}

export function holdBack(held: boolean): void {
  try {
    if (held) localStorage.setItem(HELD_BACK, "1");
    else localStorage.removeItem(HELD_BACK);
  } catch {
    // A browser that keeps nothing has nothing fetched either.
  }
  show({});
}

/** A browser that keeps nothing has taken nothing along. */
export function wasTaken(): boolean {
  return noted(TAKEN);
}

function noted(key: string): boolean {
  try {
    return localStorage.getItem(key) !== null;
  } catch {
    return false;
  }
}
