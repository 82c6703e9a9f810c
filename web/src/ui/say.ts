import { useSyncExternalStore } from "react";

/** A short word at the edge of the screen, with at most one thing to do about it. */
export interface Said {
  text: string;
  action?: { label: string; act: () => void };
}

let current: (Said & { key: number }) | null = null;
let count = 0;
const listeners = new Set<() => void>();

export function say(said: Said | null): void {
  count += 1;
  current = said && { ...said, key: count };
  listeners.forEach((listener) => listener());
}

export function useSaid() {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => current,
  );
}
