import * as v from "valibot";
import type { Doc, Shelf } from "./shelf";

/**
 * What was shown and not yet written when its page went: a reload or a closed tab breaks off whatever the browser's
 * database had not finished. It is noted where a page that goes can still note something, and written by the next one.
 */

const PREFIX = "jackstaff left ";

/** Note what the database has not confirmed when this page goes; a page that comes back writes it itself. */
export function noteWhenGoing(pending: () => readonly Doc[]): void {
  const key = PREFIX + crypto.randomUUID();
  globalThis.addEventListener("pagehide", () => {
    const docs = pending();
    if (docs.length > 0) inNotes((notes) => notes.setItem(key, JSON.stringify(docs)));
  });
  globalThis.addEventListener("pageshow", () => inNotes((notes) => notes.removeItem(key)));
}

/** Write what pages before this one could not; whatever was written since stays. */
export async function writeLeft(shelf: Shelf): Promise<void> {
  for (const [key, docs] of left()) {
    for (const doc of docs)
      await shelf.change(doc.owner, doc.kind, doc.id, (held) => (held && held.stamp >= doc.stamp ? undefined : doc));
    inNotes((notes) => notes.removeItem(key));
  }
}

/** Forget what was noted of an owner who is no more. */
export function forgetLeft(owner: string): void {
  for (const [key, docs] of left())
    inNotes((notes) => notes.setItem(key, JSON.stringify(docs.filter((doc) => doc.owner !== owner))));
}

function left(): [string, Doc[]][] {
  const found: [string, Doc[]][] = [];
  inNotes((notes) => {
    for (const key of Object.keys(notes).filter((name) => name.startsWith(PREFIX)))
      found.push([key, docsOf(notes.getItem(key) ?? "")]);
  });
  return found;
}

const NOTED = v.array(v.looseObject({ owner: v.string(), kind: v.string(), id: v.string(), stamp: v.string() }));

/** What was noted; nothing where it cannot be read, so that it does not stand in the way of the rest. */
function docsOf(noted: string): Doc[] {
  try {
    return v.parse(NOTED, JSON.parse(noted)) as unknown as Doc[];
  } catch {
    return [];
  }
}

/** A browser that keeps no notes goes without. */
function inNotes(how: (notes: Storage) => void): void {
  try {
    how(localStorage);
  } catch {
    // Blocked or full: then a reload within the same breath can lose what was changed, as it always could.
  }
}
