import { useEffect, useState } from "react";

/** A value once it has not changed for `ms`; compared by what it says, not by identity. */
export function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  const said = JSON.stringify(value ?? null);
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(JSON.parse(said) as T), ms);
    return () => window.clearTimeout(timer);
  }, [said, ms]);
  return settled;
}
