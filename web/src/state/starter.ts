import { useSyncExternalStore } from "react";
import type { Schemas } from "../api/client";
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

/** Whether a thing is one of those everybody starts with. */
export function isLent(id: string): boolean {
  return held?.kit.items.some((item) => item.id === id) ?? false;
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
