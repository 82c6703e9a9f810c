import { useCallback, useEffect, useRef } from "react";
import { goOnKnowing } from "../../state/phoneCheck";
import { open } from "../../state/running";
import { saySun } from "../../state/sunSaid";
import type { Failure } from "../../state/trigger";

/** The press that opens the shutter at an instant [ms]; `told` hears whether it failed. */
export function usePress(warns: boolean, isLong: boolean, told: (failed: Failure | null) => void) {
  const hears = useRef(told);
  useEffect(() => {
    hears.current = told;
  });
  return useCallback(
    (at: number) => {
      void open(new Date(at)).then((failed) => {
        hears.current(failed);
        if (failed) return;
        if (warns) saySun();
        if (isLong) goOnKnowing();
      });
    },
    [warns, isLong],
  );
}
