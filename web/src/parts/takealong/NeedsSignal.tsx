import { useSyncExternalStore } from "react";
import { subscribe, takenAlong } from "../../engine/taken";
import { words } from "../../words";

/** Said beforehand where there is no signal: pictures are drawn and measured by the server alone. */
export function NeedsSignal() {
  const { signal } = useSyncExternalStore(subscribe, takenAlong);
  if (signal) return null;
  return (
    <p className="quiet mb-0" role="status">
      {words.takeAlong.needs}
    </p>
  );
}
