import { leaveDoubts } from "../../parts/leaving/leaveText";
import type { Outing } from "../../state/outings";
import { words } from "../../words";
import { clockIn } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { roughTime } from "../../words/times";
import { headOf, leaveOf, noWay, whereOf } from "./planSentences";
import type { Plan } from "./usePlan";

/** The plan as text to be handed on: where and when, when to leave, which filters when, and the caution. */
export function planText(outing: Outing, { swaps, water, nameOf }: Plan): string {
  const clock = (at: string) => clockIn(Date.parse(at), outing.zone);
  return [
    outing.name,
    headOf(outing),
    whereOf(outing),
    leaveOf(outing, water),
    ...(water ? leaveDoubts(water, outing.zone) : []),
    "",
    ...(swaps?.stretches ?? []).map((stretch) =>
      stretch.glass
        ? `${clock(stretch.start)} ${stretch.glass.map(nameOf).join(" + ") || words.bare}, f/${stretch.aperture}, ISO ${stretch.iso}: ${outingWords.times(roughTime(stretch.first_seconds ?? 0), roughTime(stretch.last_seconds ?? 0))}`
        : `${clock(stretch.start)} ${noWay(stretch)}`,
    ),
    "",
    outingWords.caution,
  ].join("\n");
}
