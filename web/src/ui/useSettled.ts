import { useEffect, useState } from "react";

/** A value once it has not changed for `ms` (0: never waits); compared by what it says, not by identity. */
export function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  const text = JSON.stringify(value ?? null);
  useEffect(() => {
    if (ms === 0) return;
    const timer = window.setTimeout(() => setSettled(JSON.parse(text) as T), ms);
    return () => window.clearTimeout(timer);
  }, [text, ms]);
  return ms === 0 ? value : settled;
}
