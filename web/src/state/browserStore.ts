import { useSyncExternalStore } from "react";

/** A value kept in this browser, seen alike by every component and every tab. */
export interface BrowserStore<T> {
  read: () => T;
  write: (value: T) => void;
  use: () => T;
}

/** What cannot be read any more counts as `fallback`; writing `fallback` itself forgets the value. */
export function browserStore<T>(key: string, fallback: T): BrowserStore<T> {
  const listeners = new Set<() => void>();
  let held: { raw: string | null; value: T } = { raw: null, value: fallback };
  const read = () => {
    const raw = localStorage.getItem(key);
    if (raw !== held.raw) {
      try {
        held = { raw, value: raw === null ? fallback : (JSON.parse(raw) as T) };
      } catch {
        held = { raw, value: fallback };
      }
    }
    return held.value;
  };
  const listen = (listener: () => void) => {
    listeners.add(listener);
    window.addEventListener("storage", listener);
    return () => {
      listeners.delete(listener);
      window.removeEventListener("storage", listener);
    };
  };
  return {
    read,
    write: (value) => {
      if (value === fallback) localStorage.removeItem(key);
      else localStorage.setItem(key, JSON.stringify(value));
      listeners.forEach((listener) => listener());
    },
    use: () => useSyncExternalStore(listen, read),
  };
}
