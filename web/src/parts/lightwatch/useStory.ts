import { useReviewed } from "../../questions/log";
import type { Lit } from "../../state/taught";
import { keptLooks } from "../../state/exposureEnd";
import { documentOf, type Frame } from "../../state/frames";

/**
 * What a phone saw of a frame's light, and what that made of it; null where none watched, undefined until it is known:
 * nothing is offered for a next frame before that.
 */
export function useStory(frame: Frame): Lit | null | undefined {
  const watched = keptLooks(frame).length > 0 && frame.state !== "open";
  const question = {
    frame: documentOf(frame),
    light_stops: 0,
    now: null,
    step: frame.reading.step,
    sensor_height_mm: 24,
    pitch_deg: null,
    glass: [],
  };
  const { shown, error } = useReviewed(watched ? question : null);
  if (!watched || error) return null;
  return shown && (shown.light ?? null);
}
