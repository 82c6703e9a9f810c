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
  const none =
    plan.wish === null ? say.noLook : !plan.glassPlanned || plan.end === null ? words.bench.waiting : say.noWay;
  return (
    <p className="outing-time" data-stale={(plan.swaps && !plan.sure) || undefined}>
      <span>{next?.kind === "change" ? say.change : say.first}</span>
      {next ? (
        <strong>{clockIn(next.at, outing.zone)}</strong>
      ) : (
        <em>{plan.swaps && plan.glassPlanned ? over(plan) : none}</em>
      )}
    </p>
  );
}

function over(plan: Plan): string {
  return plan.swaps?.stretches.some(({ glass }) => glass !== null) ? outingWords.next.noChange : outingWords.next.noWay;
}
