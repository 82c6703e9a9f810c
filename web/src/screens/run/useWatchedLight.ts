import { useEffect } from "react";
import { type ExposureEnd, useExposureEnd } from "../../questions/exposureEnd";
import { exposureEndOf } from "../../state/exposureEnd";
import type { Frame } from "../../state/frames";
import { isMine, useLightWatch } from "../../state/lightWatch";
import { noteLooks } from "../../state/runLight";

/** How often what was seen goes to the frame while it runs [ms]. */
const NOTED_MS = 30_000;

/** The end of a running frame by all that is known of its light. */
export function useWatchedLight(frame: Frame): ExposureEnd | undefined {
  const watch = useLightWatch();
  const question = exposureEndOf(frame, watch);
  const { id } = frame;
  const watching = watch?.frame?.id === id && isMine();
  useEffect(() => {
    if (!watching) return;
    const timer = window.setInterval(() => void noteLooks(id), NOTED_MS);
    return () => window.clearInterval(timer);
  }, [id, watching]);
  return useExposureEnd(question);
}
