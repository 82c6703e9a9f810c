import { useEffect, useState } from "react";
import { type Frame, frameNow } from "../../state/frames";
import * as clock from "../../state/clock";
import { noteServerClock } from "../../state/running";

export interface Watch {
  /** Until it is known how long the shutter has been open, nothing is said. */
  known: boolean;
  source: clock.Source;
  jump: clock.Jump;
}

/** Keep the truth about time while a frame runs: find it on arriving, check it against the clocks, leave signs of life. */
export function useWatch(frame: Frame): Watch {
  const [watch, setWatch] = useState<Watch>({ known: false, source: "own", jump: "none" });
  const { id } = frame;
  useEffect(() => {
    let there = true;
    void clock.watch(frame).then((source) => {
      if (!there) return;
      setWatch((now) => ({ ...now, known: true, source }));
      // The page that opened it could not ask the server then; the count is as good from any page that knows.
      if (source === "wall" || frame.run?.server_clock) return;
      const current = frameNow(id) ?? frame;
      void clock.serverClockAt(current).then((then) => then && noteServerClock(current, then));
    });
    const look = () => {
      const now = frameNow(id) ?? frame;
      void clock.signOfLife(now);
      void clock.checked(now).then((jump) => {
        if (there && jump !== "none") setWatch((now) => ({ ...now, jump }));
      });
    };
    const timer = window.setInterval(look, 1000);
    document.addEventListener("visibilitychange", look);
    return () => {
      there = false;
      window.clearInterval(timer);
      document.removeEventListener("visibilitychange", look);
    };
    // The frame's clock is found once; what changes about the frame later does not move it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [id]);
  return watch;
}

/** Keep the screen awake while something runs, where the browser lets us; whether it does, null while it is asked. */
export function useAwake(): boolean | null {
  const [stored, setStored] = useState<boolean | null>(null);
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    let there = true;
    const ask = async () => {
      if (document.visibilityState !== "visible") return;
      try {
        lock = await navigator.wakeLock.request("screen");
        if (there) setStored(true);
        else await lock.release();
      } catch {
        lock = null;
        if (there) setStored(false);
      }
    };
    void ask();
    const again = () => void ask();
    document.addEventListener("visibilitychange", again);
    return () => {
      there = false;
      document.removeEventListener("visibilitychange", again);
      void lock?.release();
    };
  }, []);
  return stored;
}
