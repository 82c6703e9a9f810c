import { useSyncExternalStore } from "react";

/**
 * What time it is for whoever stands at the tripod: the wall's, or that of a dry run, which may go faster or stand
 * still. Whatever a photographer would read off a watch asks here; what is written between machines asks the wall.
 */
export interface World {
  /** An instant of the world [ms], and the wall's own when it was that [ms]. */
  world: number;
  wall: number;
  /** World seconds in a real one; 0 stands still. */
  pace: number;
}

let world: World | null = null;
const listeners = new Set<() => void>();

/** The present instant [ms]. */
export function nowMs(): number {
  return world === null ? Date.now() : world.world + (Date.now() - world.wall) * world.pace;
}

/** World seconds in a real one: 1 but for a dry run. */
export function pace(): number {
  return world?.pace ?? 1;
}

/** Whether the clock is the wall's own. */
export function isReal(): boolean {
  return world === null;
}

/** Let another world's clock count, or the wall's again. */
export function setWorld(next: World | null): void {
  if (next?.world === world?.world && next?.wall === world?.wall && next?.pace === world?.pace) return;
  world = next;
  for (const listener of listeners) listener();
}

export function onWorld(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

export function usePace(): number {
  return useSyncExternalStore(onWorld, pace);
}
