import { useState } from "react";
import type { Schemas } from "../../api/client";
import { bandsOf } from "../../parts/looks/bands";
import "../../parts/looks/looks.css";
import { useReach } from "../../questions/extras";
import { useLooks } from "../../questions/looks";
import { useLearnt } from "../../questions/log";
import { looksOf } from "../../state/asks";
import { type Laid, useBench } from "../../state/bench";
import { useKit } from "../../state/kit";
import { looks as ownLooks } from "../../state/looks";
import { useOwnLog } from "../../state/ownLog";
import { Fault } from "../../ui/Fault";
import { words } from "../../words";
import { bagWords } from "../../words/bag";
import { timeText } from "../../words/times";
import { reachOf } from "./asks";
import { ReachStaff } from "./ReachStaff";

const say = bagWords.reach;
const LONGEST_S = 86_400;

/** Every time this bag makes from the bench's reading, on the staff's axis, with its gaps and what would close most. */
export function ReachPage() {
  const [laid] = useBench();
  if (!laid) return <p className="waiting">{words.bench.waiting}</p>;
  return <FromReading laid={laid} />;
}

function FromReading({ laid }: { laid: Laid }) {
  const own = ownLooks.use();
  const looks = useLooks(looksOf(laid, own)).shown;
  const byHand = laid.bench.meter === "hand";
  // What the frames of the log wanted says best what is missing.
  const wished = useLearnt(useOwnLog(useKit())).shown?.wished ?? [];
  const reach = useReach(byHand ? null : reachOf(laid, wished));
  const [at, setAt] = useState<number | null>(null);
  const { shutter, aperture, iso } = laid.bench;
  const names = (ids: readonly string[]) =>
    ids.map((id) => laid.items.find((item) => item.id === id)?.name ?? bagWords.notThere).join(" + ") || say.bare;
  const all = reach.shown;
  // A day is as long as anything is left open; what lies beyond is counted.
  const found = all && {
    ...all,
    rungs: all.rungs.filter((rung) => rung.seconds <= LONGEST_S),
    gaps: all.gaps.filter((gap) => gap.to_seconds <= LONGEST_S),
  };
  const beyond = all && found ? all.rungs.length - found.rungs.length : 0;
  const rungText = (rung: {
    seconds: number;
    seconds_to: number;
    stops: number;
    stops_to: number;
    glass: string[];
  }) => {
    const spread = rung.stops !== rung.stops_to;
    return say.at(
      spread ? say.span(timeText(rung.seconds), timeText(rung.seconds_to)) : timeText(rung.seconds),
      spread ? say.span(rung.stops.toFixed(1), rung.stops_to.toFixed(1)) : rung.stops.toFixed(1),
      names(rung.glass),
    );
  };
  const picked = at === null ? undefined : found?.rungs[at];
  return (
    <div className="reach">
      <h1>{say.title}</h1>
      <p className="mb-0">{byHand ? say.noReading : say.intro(`${shutter}, f/${aperture}, ISO ${iso}`)}</p>
      <Fault error={reach.error} again={reach.again} />
      {found && (
        <div className="reach-parts" data-stale={reach.stale || undefined}>
          <div className="reach-picture">
            <ReachStaff
              found={found}
              bands={bandsOf(laid, looks)}
              at={at}
              onAt={setAt}
              rungText={rungText}
              names={names}
            />
            <p className="reach-picked" role="status" aria-live="polite">
              {picked ? rungText(picked) : <span className="quiet">{say.hint}</span>}
            </p>
          </div>
          <div className="reach-words">
            <ul className="plain-list">
              {found.gaps.length === 0 && <li>{say.noGaps}</li>}
              {found.gaps.map((gap) => (
                <li key={gap.from_stops}>
                  <strong>
                    {say.gap(
                      timeText(gap.from_seconds),
                      timeText(gap.to_seconds),
                      (gap.to_stops - gap.from_stops).toFixed(1),
                    )}
                  </strong>
                  : {gap.bridges.map((bridge) => say.bridges[bridge]).join(", ") || say.unbridged}.
                </li>
              ))}
            </ul>
            <p className="mb-0">{say.longestBare(timeText(found.longest_bare_seconds))}</p>
            <p className="mb-0">{toBuy(found.purchase ?? null, wished.length)}</p>
            {beyond > 0 && <p className="quiet mb-0">{say.beyond(beyond)}</p>}
            <details>
              <summary>{say.list}</summary>
              <ul className="plain-list">
                {found.rungs.map((rung) => (
                  <li key={`${rung.stops} ${rung.stops_to}`}>{rungText(rung)}</li>
                ))}
              </ul>
            </details>
          </div>
        </div>
      )}
    </div>
  );
}

/** The one filter that would help most, by what frames have wanted so far, else by the whole ladder. */
function toBuy(purchase: Schemas["PurchaseAnswer"] | null, wished: number): string {
  if (!purchase) return wished > 0 ? say.wishedAll(wished) : say.buyNone;
  const stops = purchase.stops.toFixed(0);
  if (purchase.wished > 0) return say.buyWished(stops, purchase.wished, purchase.reached_now, purchase.reached_then);
  return say.buy(stops, purchase.gap_stops_now.toFixed(1), purchase.gap_stops_then.toFixed(1));
}
