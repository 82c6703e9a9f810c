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
  /** An instant of the world [ms] that a hand waits for: near it the clock goes no faster than real time. */
  due?: number | null | undefined;
}

/** So near to what a hand waits for it goes in real time [world seconds]: so many, or so long at its pace. */
const EASE_S = 10;
const EASE_REAL_S = 0.5;

/** How long before what a hand waits for a clock of that pace eases [world seconds]. */
export function easeSeconds(pace: number): number {
  return Math.max(EASE_S, EASE_REAL_S * pace);
}

/**
 * What time it is there when the wall's clock says `at` [ms]. It eases by itself, not when somebody looks: a page that is
 * held up for a second at sixty times the pace would find the end gone by a minute. Who speeds it up that near means it.
 */
export function instantOf({ world, wall, pace, due }: World, at: number): number {
  const fast = world + (at - wall) * pace;
  if (due == null || pace <= 1) return fast;
  const eases = due - easeSeconds(pace) * 1000;
  if (fast <= eases || eases < world) return fast;
  return eases + (at - wall - (eases - world) / pace);
}

let world: World | null = null;
const listeners = new Set<() => void>();

/** The present instant [ms]. */
export function nowMs(): number {
  return world === null ? Date.now() : instantOf(world, Date.now());
}

/** World seconds in a real one: 1 but for a dry run. */
export function pace(): number {
  return world?.pace ?? 1;
}

/** Real seconds to what a hand waits for, by the seconds that are left of it in this world. */
export function realSecondsTo(left: number): number {
  const fast = pace();
  const ease = fast > 1 ? easeSeconds(fast) : 0;
  return ease > 0 && left > ease ? (left - ease) / fast + ease : left / fast;
}

/** Whether the clock is the wall's own. */
export function isReal(): boolean {
  return world === null;
}

/** Let another world's clock count, or the wall's again. */
export function setWorld(next: World | null): void {
  if (JSON.stringify(next) === JSON.stringify(world)) return;
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
