import { reviewOf, useReviewed } from "../../questions/log";
import type { Lit } from "../../state/again";
import { keptLooks } from "../../state/exposureEnd";
import type { Frame } from "../../state/frames";

/**
 * What a phone saw of a frame's light, and what that made of it; null where none watched, undefined until it is known:
 * nothing is offered for a next frame before that.
 */
export function useStory(frame: Frame): Lit | null | undefined {
  const watched = keptLooks(frame).length > 0 && frame.state !== "open";
  const { shown, error } = useReviewed(watched ? reviewOf(frame) : null);
  if (!watched || error) return null;
  return shown && (shown.light ?? null);
}
