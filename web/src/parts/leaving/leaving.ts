import { useEffect, useRef, useState } from "react";
import { ring, wake } from "../../ui/bell";
import { useNow } from "../../ui/useNow";
import { type Tide, useTide } from "../../questions/light";
import { tideOf } from "../../state/asks";
import { remember, useHabits } from "../../state/habits";
import type { Outing } from "../../state/outings";

/** Minutes before leaving at which one is warned. */
const WARN_MINUTES = 10;
/** So many answered leave-by instants are remembered. */
const MOST_HEARD = 20;

export interface Leaving {
  /** Left to go [ms], negative once it has passed; null where nobody knows when to leave. */
  left: number | null;
  alarm: "none" | "warning" | "now";
  hear: () => void;
  /** What is known of the way back. */
  tide: Tide;
}

/** What is known of the way back of an outing that goes on, its time to leave and the alarm, on every screen. */
export function useLeaving(outing: Outing | undefined, outings: readonly Outing[]): Leaving | null {
  const now = useNow(1000);
  const tide = useTide(outing ? tideOf(outing, outings, now) : null).answer;
  const { left: heard } = useHabits();
  const leaveBy = tide?.leave_by == null ? null : Date.parse(tide.leave_by);
  const left = leaveBy === null ? 0 : leaveBy - now;
  const key = outing === undefined || leaveBy === null ? "" : `${outing.id} ${leaveBy}`;
  const due = leaveBy !== null && !heard.includes(key);
  const alarm = !due || left > WARN_MINUTES * 60_000 ? "none" : left > 0 ? "warning" : "now";
  useAlarm(alarm);
  if (tide?.state == null) return null;
  return {
    left: leaveBy === null ? null : left,
    alarm,
    hear: () => remember({ left: [...heard.slice(-MOST_HEARD), key] }),
    tide,
  };
}

/** Rings once when the warning comes, then every half minute when it is time, whatever screen is open. */
function useAlarm(alarm: Leaving["alarm"]): void {
  const [rung, setRung] = useState(0);
  const warned = useRef(false);
  useEffect(() => {
    if (alarm === "none") {
      warned.current = false;
      return;
    }
    if (alarm === "warning" && warned.current) return;
    warned.current = true;
    void wake().then(() => ring());
    if ("vibrate" in navigator && navigator.userActivation.hasBeenActive) navigator.vibrate([600, 200, 600]);
    if (alarm !== "now") return;
    const again = window.setTimeout(() => setRung(rung + 1), 30_000);
    return () => window.clearTimeout(again);
  }, [alarm, rung]);
}
