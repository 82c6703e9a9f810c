import { useEffect, useState } from "react";
import { nowMs, usePace } from "./worldClock";

/** No clock on screen is set more often than this [ms]. */
const SHORTEST_MS = 200;

/** The present instant in ms, refreshed every `everyMs` of it. */
export function useNow(everyMs: number): number {
  const [now, setNow] = useState(nowMs);
  const pace = usePace();
  useEffect(() => {
    const look = () => setNow(nowMs());
    look();
    const real = pace > 1 ? Math.max(SHORTEST_MS, everyMs / pace) : everyMs;
    const timer = window.setInterval(look, real);
    return () => window.clearInterval(timer);
  }, [everyMs, pace]);
  return now;
}
