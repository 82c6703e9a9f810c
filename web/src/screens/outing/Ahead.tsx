import { Link } from "wouter";
import { type Swaps, useBudget } from "../../questions/light";
import type { Laid } from "../../state/bench";
import { type Outing, span } from "../../state/outings";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";
import { clockIn } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { roughTime, timeText } from "../../words/times";
import { budgetOf } from "./asks";
import { noWay } from "./planSentences";

interface SwapsProps {
  outing: Outing;
  swaps: Swaps | undefined;
  /** Whether it is known what the plan puts on. */
  planned: boolean;
  nameOf: (id: string) => string;
}

/** Which glass when, each change with its hand time. */
export function SwapList({ outing, swaps, planned, nameOf }: SwapsProps) {
  const say = outingWords;
  const clock = (instant: string) => clockIn(Date.parse(instant), outing.zone);
  return (
    <div>
      <h3>{say.swaps}</h3>
      {!swaps && !planned && <p className="quiet">{words.bench.waiting}</p>}
      {!swaps && planned && (
        <p>
          {say.noAim}{" "}
          <Link to="/" className="plain-link">
            {words.toBench}
          </Link>
        </p>
      )}
      <ol className="swap-list">
        {swaps?.stretches.map((stretch) => (
          <li key={stretch.start}>
            <strong>{clock(stretch.start)}</strong>
            {stretch.glass ? (
              <>
                <span>
                  {stretch.glass.map(nameOf).join(" + ") || words.bare}
                  <small>
                    f/{stretch.aperture}, ISO {stretch.iso}
                    {stretch.hand_seconds > 0 && `, ${say.hands(timeText(stretch.hand_seconds))}`}
                  </small>
                </span>
                <span className="swap-times">
                  {say.times(roughTime(stretch.first_seconds ?? 0), roughTime(stretch.last_seconds ?? 0))}
                </span>
              </>
            ) : (
              <span>{noWay(stretch)}</span>
            )}
          </li>
        ))}
      </ol>
    </div>
  );
}

interface BudgetProps {
  outing: Outing;
  laid: Laid | null;
  seconds: number | undefined;
  /** When the plan ends [ms]. */
  end: number;
}

/** How many frames of the bench's time fit before one has to leave. */
export function FramesLeft({ outing, laid, seconds, end }: BudgetProps) {
  const now = useNow(60_000);
  const [arrive, back] = span(outing);
  const from = Math.max(arrive, Math.min(now, back));
  const budget = useBudget(budgetOf(laid, seconds, from, end, outing.weather.celsius ?? 10)).answer;
  const say = outingWords;
  const ends = end < back ? say.budgetUntil.leave : say.budgetUntil.back;
  return (
    <div>
      <h3>{say.budget}</h3>
      {budget && seconds !== undefined ? (
        <p>
          {say.budgetSays(budget.frames, roughTime(seconds), ends)}
          {budget.ends_by === "battery" && <span className="quiet"> {say.budgetEnds.battery}</span>}
        </p>
      ) : (
        <p className="quiet">{say.budgetNone}</p>
      )}
    </div>
  );
}
