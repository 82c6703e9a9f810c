import type { Laid } from "../../state/bench";

/** Whether what is on can be one thing: two to four filters of one strength each, none a named stack already. */
export function isNameable({ stack, bench }: Laid): boolean {
  const metered = stack.filter((glass) => bench.through.some(({ id }) => id === glass.id)).length;
  const whole = metered === 0 || metered === stack.length;
  const fit = (glass: Laid["stack"][number]) => glass.low === glass.high && glass.kind !== "graduated";
  return whole && stack.length > 1 && stack.length <= 4 && stack.every((glass) => fit(glass) && !glass.members.length);
}
