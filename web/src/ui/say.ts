import { useSyncExternalStore } from "react";

/** A short word at the edge of the screen, with at most one thing to do about it. */
export interface Message {
  text: string;
  action?: { label: string; act: () => void };
}

export interface Standing extends Message {
  key: number;
}

/** Each keeps its own way back; the oldest makes room. */
const MOST = 4;
let standing: Standing[] = [];
let count = 0;
const listeners = new Set<() => void>();

function show(next: Standing[]): void {
  standing = next;
  listeners.forEach((listener) => listener());
}

export function say(message: Message): void {
  count += 1;
  show(
    [
      ...standing.filter((earlier) => earlier.action !== undefined || earlier.text !== message.text),
      { ...message, key: count },
    ].slice(-MOST),
  );
}

export function unsay(key: number): void {
  show(standing.filter((shown) => shown.key !== key));
}

/** What can be taken back or gone to is somebody's: where another comes, only the plain words stay. */
export function unsayActions(): void {
  show(standing.filter((shown) => shown.action === undefined));
}

export function useMessages(): Standing[] {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => standing,
  );
}
