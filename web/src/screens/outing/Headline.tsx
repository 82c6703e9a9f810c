import type { Outing } from "../../state/outings";
import { useNow } from "../../ui/useNow";
import { clockIn } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { words } from "../../words";
import { Leave } from "./Leave";
import { nextOfPlan } from "./morning";
import { headOf } from "./planSentences";
import type { Plan } from "./usePlan";

interface Props {
  outing: Outing;
  plan: Plan;
  /** Whether somebody has to do without a forecast. */
  blind: boolean;
  onRests: () => void;
}

/** The two times of an outing, and of which outing. */
export function Headline({ outing, plan, blind, onRests }: Props) {
  return (
    <header className="outing-head">
      {!blind && <NextTime outing={outing} plan={plan} />}
      <Leave outing={outing} tide={plan.water} error={plan.tide.error} onRests={onRests} />
      <div className="outing-name">
        <h2>{outing.name || outingWords.title}</h2>
        <p>{headOf(outing)}</p>
      </div>
    </header>
  );
}

/** When the first frame of the plan opens, or while it goes on, when the filters change next. */
function NextTime({ outing, plan }: { outing: Outing; plan: Plan }) {
  const say = outingWords.next;
  const now = useNow(15_000);
  const next = nextOfPlan(plan.swaps, now);
  return (
    <p className="outing-time" data-stale={(plan.swaps && !plan.sure) || undefined}>
      <span>{next?.kind === "change" ? say.change : say.first}</span>
      {next ? <strong>{clockIn(next.at, outing.zone)}</strong> : <em>{whyNone(plan)}</em>}
    </p>
  );
}

function whyNone({ wish, swaps, glassPlanned, end }: Plan): string {
  const say = outingWords.next;
  if (wish === null) return say.noLook;
  if (!swaps || !glassPlanned || end === null) return words.bench.waiting;
  return swaps.stretches.some(({ glass }) => glass !== null) ? say.noChange : say.noWay;
}
