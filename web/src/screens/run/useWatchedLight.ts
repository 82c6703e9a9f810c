import { useCallback, useEffect, useMemo, useRef } from "react";
import { type ExposureEnd, useExposureEnd } from "../../questions/exposureEnd";
import { exposureEndOf } from "../../state/exposureEnd";
import type { Frame } from "../../state/frames";
import { isMine, useLightWatch } from "../../state/lightWatch";
import { noteLooks } from "../../state/running";

type Kept = NonNullable<ExposureEnd["light"]>["kept"];

/** How often what was seen goes to the frame while it runs [ms]. */
const NOTED_MS = 30_000;

/** The end of a running frame by all that is known of its light; `kept` is what the frame keeps of a watch. */
export function useWatchedLight(frame: Frame): { closing: ExposureEnd | undefined; kept: () => Kept | null } {
  const watch = useLightWatch();
  const asked = exposureEndOf(frame, watch);
  // What a watch knows grows with the time; without one the question stands still.
  const seconds = asked && asked.looks.length > 0 ? (asked.looks.at(-1)?.at_seconds ?? 0) : null;
  const now =
    asked && seconds !== null
      ? new Date(Date.parse(frame.opened_at) + Math.max(0, seconds) * 1000).toISOString()
      : (asked?.now ?? "");
  const closing = useExposureEnd(asked && { ...asked, now });
  const latest = useRef<Kept | null>(null);
  useEffect(() => {
    latest.current = closing?.light?.kept ?? null;
  }, [closing]);
  const { id } = frame;
  const watching = watch?.frame?.id === id && isMine();
  useEffect(() => {
    if (!watching) return;
    const timer = window.setInterval(() => {
      if (latest.current) void noteLooks(id, latest.current);
    }, NOTED_MS);
    return () => window.clearInterval(timer);
  }, [id, watching]);
  const kept = useCallback(() => latest.current, []);
  return useMemo(() => ({ closing, kept }), [closing, kept]);
}
