import type { ArmQuestion } from "../../questions/checklist";
import { useFinished } from "../../state/frames";
import { useHabits } from "../../state/habits";

/** The checklist's question with what the battery had when somebody looked, and how long the shutter stood open since. */
export function useArmList(list: ArmQuestion | null): ArmQuestion | null {
  const { battery } = useHabits();
  const finished = useFinished();
  if (!list || !battery) return list;
  const since = finished.filter((frame) => frame.opened_at > battery.at);
  // A camera that reduced noise was busy for as long again.
  const open = since.reduce(
    (sum, { actual_seconds, run }) => sum + (actual_seconds ?? 0) * (run?.busy_until ? 2 : 1),
    0,
  );
  return { ...list, battery_share: battery.share, open_since_seconds: Math.round(open) };
}
