import type { Armed } from "../../state/armed";

/** How many frames at the dial's end a camera without bulb needs instead of one; null where it need not. */
export function instead({ list, plan }: Armed): number | null {
  if (list?.body?.["long_times"] !== "none" || plan.answer.dial_mark !== null) return null;
  return Math.ceil(plan.answer.set_seconds / plan.dial_limit);
}
