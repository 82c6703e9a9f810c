import { isWorkedOut } from "../../questions/ask";
import { useExposure } from "../../questions/bench";
import { useFillable, useFrames, useLight, useSwaps, useTide } from "../../questions/light";
import { useLooks } from "../../questions/looks";
import { usePack } from "../../questions/pack";
import { endOf, exposureOf, lightOf, lightUntil, looksOf, swapsOf, tideOf, wishOf } from "../../state/asks";
import type { Laid } from "../../state/bench";
import { useKit } from "../../state/kit";
import { looks as ownLooks } from "../../state/looks";
import type { Outing } from "../../state/outings";
import { useNow } from "../../ui/useNow";
import { framesOf, packOf } from "./asks";

/** What is worked out of an outing: light, water, the filters for the look on the bench, their frames, what to pack. */
export function usePlan(outing: Outing, outings: readonly Outing[], laid: Laid | null) {
  const own = ownLooks.use();
  const now = useNow(60_000);
  const looked = useLooks(laid && looksOf(laid, own));
  const aim = looked.answer?.aim;
  const light = useLight(outing.id, lightOf(outing));
  const tide = useTide(tideOf(outing, outings, now));
  // When to leave is never told from another question's answer, and nothing is planned before it is known.
  const water = tide.answer;
  const end = isWorkedOut(tide) ? endOf(outing, water) : null;
  const swapped = useSwaps(outing.id, end === null ? null : swapsOf(outing, laid, aim, end));
  const fillable = useFillable(end === null ? null : lightUntil(outing, end)).answer?.longest_seconds;
  const planned = useFrames(outing.id, framesOf(laid, swapped.shown, end ?? 0));
  const { answer: sum } = useExposure(laid && exposureOf(laid));
  const { items } = useKit();
  const nameOf = (id: string) => laid?.bag.find((glass) => glass.id === id)?.name ?? id;
  const grownFrom = { outing, laid, swaps: swapped.shown, light: light.shown, frames: planned.shown, nameOf, items };
  const glassPlanned = isWorkedOut(looked) && isWorkedOut(swapped);
  const wish = wishOf(laid, aim);
  return {
    light,
    tide,
    water,
    end,
    swaps: swapped.shown,
    /** The plan that belongs to the question asked now. */
    sure: swapped.answer,
    fillable: light.answer && fillable,
    frames: planned.shown,
    pack: usePack(outing.id, packOf(grownFrom)),
    nameOf,
    /** The look as a time, with what of this bag can give it. */
    wish,
    aim: wish && { from: wish.from_seconds, to: wish.to_seconds },
    /** The bench's time, and what its meter says at EV 0 with the frame's own settings [s]. */
    seconds: sum?.set_seconds,
    atEvZero: sum?.scene_ev100 == null ? null : sum.base_seconds * 2 ** sum.scene_ev100,
    glassPlanned,
    // What leaves the screen as a file or on paper is of this plan and whole.
    ready: laid !== null && glassPlanned && [light, tide, planned].every(isWorkedOut),
  };
}

export type Plan = ReturnType<typeof usePlan>;
