import { useEffect, useRef, useState } from "react";
import { cameBack, putAway } from "../../state/phoneCheck";
import { queueBell, silence, wake } from "../../ui/bell";
import { notify } from "../../ui/tell";
import { phoneWords as say } from "../../words/phoneCheck";

export interface Away {
  stage: "idle" | "going" | "early" | "asked";
  /** How long it was away the last time [s]. */
  seconds: number;
  start: () => Promise<void>;
  answer: (rang: boolean) => void;
}

/** It rings after so long [s]. */
const RINGS_S = 60;

/** The page is put away and rings after a minute; whoever comes back says whether it did. */
export function useAway(onResult: (why: "works" | "silent") => void): Away {
  const [stage, setStage] = useState<Away["stage"]>("idle");
  const [seconds, setSeconds] = useState(0);
  const hidden = useRef<number | null>(null);
  const going = stage === "going";
  useEffect(() => {
    if (!going) return;
    const look = () => {
      if (document.visibilityState === "hidden") {
        hidden.current = Date.now();
        return;
      }
      if (hidden.current === null) return;
      const gone = Math.round((Date.now() - hidden.current) / 1000);
      hidden.current = null;
      cameBack();
      setSeconds(gone);
      // A few seconds go by between the press and the pocket.
      const isLong = gone >= RINGS_S - 10;
      if (!isLong) silence();
      setStage(isLong ? "asked" : "early");
    };
    const rings = window.setTimeout(() => void notify(say.title, say.rang), RINGS_S * 1000);
    document.addEventListener("visibilitychange", look);
    return () => {
      window.clearTimeout(rings);
      document.removeEventListener("visibilitychange", look);
      cameBack();
    };
  }, [going]);
  return {
    stage,
    seconds,
    start: async () => {
      await wake();
      queueBell(RINGS_S);
      putAway();
      setStage("going");
    },
    answer: (rang) => {
      setStage("idle");
      onResult(rang ? "works" : "silent");
    },
  };
}
