import { usePack } from "../../questions/pack";
import type { Laid } from "../../state/bench";
import { useKit } from "../../state/kit";
import type { Outing } from "../../state/outings";
import { packOf } from "./asks";
import type { Plan } from "./usePlan";

/** How much of the pack list is in the bag; null before the list is known. */
export function usePackLeft(outing: Outing, laid: Laid | null, plan: Plan): { packed: number; all: number } | null {
  const { items } = useKit();
  const { swaps, frames, light } = plan;
  const nameOf = (id: string) => laid?.bag.find((glass) => glass.id === id)?.name ?? id;
  const lines = usePack(outing.id, packOf({ outing, laid, swaps, light: light.shown, frames, nameOf, items })).shown
    ?.lines;
  if (!lines) return null;
  const packed = new Set(outing.packed);
  return { packed: lines.filter(({ code }) => packed.has(code)).length, all: lines.length };
}
