import { useSyncExternalStore } from "react";
import * as v from "valibot";

/** What this phone can do in the field, as it was tried on it. It is the device's, whoever is signed in. */

export const TRIED = ["bell", "vibration", "awake", "notices", "storage", "along", "camera", "away", "clock"] as const;
export type Tried = (typeof TRIED)[number];

/** `absent` is what a device has not got and can do without. */
const RESULT = v.object({
  how: v.picklist(["works", "fails", "absent"]),
  why: v.string(),
  /** How far the clock is ahead of the server's [s]. */
  seconds: v.optional(v.number()),
});
export type Result = v.InferOutput<typeof RESULT>;
export type Results = Partial<Record<Tried, Result>>;

const SHAPE = v.object({
  at: v.string(),
  results: v.fallback(v.record(v.string(), RESULT), {}),
  /** Whether a long frame was opened in the knowledge of what fails. */
  known: v.fallback(v.boolean(), false),
});
export interface PhoneCheck {
  at: string;
  results: Results;
  known: boolean;
}

const KEPT = "jackstaff_phone_check";
const AWAY = "jackstaff_phone_away";
const listeners = new Set<() => void>();
let read: { text: string | null; check: PhoneCheck | null } = { text: null, check: null };

/** The last check of this device; null if there was none, or this browser keeps nothing. */
export function phoneCheck(): PhoneCheck | null {
  let text: string | null;
  try {
    text = localStorage.getItem(KEPT);
  } catch {
    return null;
  }
  if (text !== read.text) read = { text, check: parsed(text) };
  return read.check;
}

function parsed(text: string | null): PhoneCheck | null {
  if (text === null) return null;
  try {
    const found = v.safeParse(SHAPE, JSON.parse(text));
    return found.success ? found.output : null;
  } catch {
    return null;
  }
}

function write(check: PhoneCheck): void {
  try {
    localStorage.setItem(KEPT, JSON.stringify(check));
  } catch {
    // A browser that keeps nothing: the result is seen, and the storage row says why it will be gone.
    read = { text: null, check };
  }
  listeners.forEach((tell) => tell());
}

export function usePhoneCheck(): PhoneCheck | null {
  return useSyncExternalStore(listen, phoneCheck);
}

function listen(tell: () => void): () => void {
  listeners.add(tell);
  window.addEventListener("storage", tell);
  return () => {
    listeners.delete(tell);
    window.removeEventListener("storage", tell);
  };
}

/** Keep one result; what was tried before stays until it is tried again. */
export function keepResult(what: Tried, result: Result): void {
  write({ at: new Date().toISOString(), results: { ...phoneCheck()?.results, [what]: result }, known: false });
}

/** A long frame is opened although something fails: it is not said again until the next check. */
export function goOnKnowing(): void {
  const check = phoneCheck();
  if (check && !check.known && failed(check).length > 0) write({ ...check, known: true });
}

export function failed({ results }: PhoneCheck): Tried[] {
  return TRIED.filter((what) => results[what]?.how === "fails");
}

/** This page is put away on purpose; a page that is loaded anew meanwhile was thrown away by its browser. */
export function putAway(): void {
  try {
    sessionStorage.setItem(AWAY, "1");
  } catch {
    // Then a page that was thrown away cannot be told from one that was closed.
  }
}

export function cameBack(): void {
  try {
    sessionStorage.removeItem(AWAY);
  } catch {
    // Nothing was noted either.
  }
}

/** Whether this page was thrown away while it was put away; asked once, when it is loaded. */
export function wasThrownAway(): boolean {
  try {
    return sessionStorage.getItem(AWAY) !== null;
  } catch {
    return false;
  }
}
