import { useSyncExternalStore } from "react";
import type { Schemas } from "../api/client";
import { draftOf, type KitItem } from "../questions/kit";
import { store } from "./store";

export type Starter = Schemas["StarterAnswer"];

/** What everybody starts with; kept in the browser, so that it is there before anybody answers. */
const STARTER = "starter";
let held: Starter | null = null;
const listeners = new Set<() => void>();

export function starter(): Starter | null {
  return held;
}

export function useStarter(): Starter | null {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => held,
  );
}

/** Whether a thing is one everybody starts with, as it came: what somebody measured or renamed is that person's own. */
export function isLent(item: KitItem): boolean {
  const lent = held?.kit.items ?? [];
  const members = item.sort === "glass" ? item.facts.members : [];
  // A stack of lent filters is lent as they are, until it was measured as one.
  if (members.length > 0 && item.sort === "glass" && item.facts.offset == null)
    return members.every((member) => lent.some(({ id }) => id === member));
  const first = lent.find(({ id }) => id === item.id);
  return first !== undefined && describe(first) === describe(item);
}

/** What a person can have said of a thing, the facts in whatever order. */
function describe(item: KitItem): string {
  const { name, note, retired, facts } = draftOf(item);
  return JSON.stringify([name, note, retired, Object.entries(facts).toSorted(([a], [b]) => (a < b ? -1 : 1))]);
}

function show(next: Starter): void {
  held = next;
  for (const listener of listeners) listener();
}

/** The starter of the visit before, if it is of this build of the program. */
export async function recallStarter(build: string): Promise<boolean> {
  const note = (await store.note(STARTER)) as { build: string; starter: Starter } | undefined;
  if (note?.build !== build || !Array.isArray(note.starter.kit.items)) return false;
  show(note.starter);
  return true;
}

export async function learnStarter(build: string, next: Starter): Promise<void> {
  show(next);
  await store.setNote(STARTER, { build, starter: next });
}
