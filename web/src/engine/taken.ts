import { here } from "../api/here";

/**
 * How far it has come that everything works without a signal. What does it (takeAlong.ts) is
 * fetched when it is needed.
 */

/** What a browser notes once everything is here. */
export const TAKEN = "jackstaff_taken_along";
/** When the hands rest after the first frame was set up [ms]: what the page itself needs comes first. */
const AHEAD_MS = 60_000;
/** A piece that did not come is asked for once more after so long [ms]. */
const AGAIN_MS = 1500;
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

/** What was taken along before is there again: at once when somebody needs it, else when the hands rest. */
export async function recall(): Promise<void> {
  if (!canTake() || !wasTaken()) return;
  try {
    (await patiently()).recall();
  } catch {
    // Then the server alone is asked.
  }
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

let ahead = false;

/**
 * Somebody sets up frames with this: when the hands rest it is fetched by itself, so that a signal lost later takes
 * nothing away. Not where the browser says that data are dear, and not while `isBusy`.
 */
export function takeAhead(isBusy: () => boolean): void {
  if (ahead || !canTake() || wasTaken()) return;
  ahead = true;
  const look = () => {
    if (isHeldBack() || isDear() || now.stage !== "none") return;
    if (isBusy() || document.visibilityState !== "visible") window.setTimeout(look, AHEAD_MS);
    else void patiently().then(({ take }) => take());
  };
  window.setTimeout(look, AHEAD_MS);
}

/** What browsers say of the network, where they do. */
interface Connection {
  saveData?: boolean;
  type?: string;
  effectiveType?: string;
}

/** Whether data are dear, as far as the browser says. */
function isDear(): boolean {
  const { connection } = navigator as { connection?: Connection };
  if (!connection) return false;
  return connection.saveData === true || connection.type === "cellular" || /2g/.test(connection.effectiveType ?? "");
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

/** What takes along, asked for again where a weak signal lost it. */
async function patiently() {
  try {
    return await import("./takeAlong");
  } catch {
    await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    return import("./takeAlong");
  }
}

here.ask = async (name, body, signal) => (await patiently()).askHere(name, body, signal);
