import { useEffect } from "react";
import { cameraSeconds } from "../../state/clock";
import type { Frame } from "../../state/frames";
import { end } from "../../state/running";
import { givenOut } from "../../state/trigger";
import { silence } from "../../ui/bell";
import { say as toast } from "../../ui/say";

/** A device that stops by itself is noticed while the frame runs. */
export function useDeviceGivesOut(
  frame: Frame,
  simulated: boolean,
  aimed: number | null,
  ending: { current: boolean },
) {
  useEffect(() => {
    if (!simulated || aimed === null) return;
    const timer = window.setInterval(() => {
      const openFor = cameraSeconds(frame);
      if (ending.current || openFor >= aimed) return;
      void givenOut(frame, aimed, openFor).then(
        (out) => {
          if (!out || ending.current) return;
          ending.current = true;
          silence();
          void end(frame, "mark", out.seconds, aimed);
          toast({ text: out.text });
        },
        () => undefined,
      );
    }, 1000);
    return () => window.clearInterval(timer);
  }, [frame, simulated, aimed, ending]);
}
