import { useEffect, useState } from "react";
import { ticked } from "../../state/dryRuns";

/** What of the list is done. */
export interface Ticks {
  done: readonly string[];
  tick: (code: string) => void;
}

export function useTicks(): Ticks {
  const [done, setDone] = useState<string[]>([]);
  // In a dry run what was forgotten shows in the picture.
  useEffect(() => ticked(done), [done]);
  const tick = (code: string) =>
    setDone((before) => (before.includes(code) ? before.filter((each) => each !== code) : [...before, code]));
  return { done, tick };
}
