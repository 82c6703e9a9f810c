import { axis, ticks } from "../../parts/staff/axis";
import { useReach } from "../../questions/extras";
import { useExposure } from "../../questions/bench";
import { exposureOf } from "../../state/asks";
import type { Laid } from "../../state/bench";
import { bagWords } from "../../words/bag";
import { timeText } from "../../words/times";
import { reachOf } from "./asks";

const HIGH = 352;
const [TOP, BOTTOM] = [12, HIGH - 2];
const WIDE = 96;
const DAY_S = 86_400;

const say = bagWords.reach;

/**
 * What the filters reach together from the bench's reading, beside them; the page of its own says which makes what.
 * `wished` are the strengths that frames of the log wanted [stops].
 */
export function ReachGlance({ laid, wished }: { laid: Laid; wished: number[] }) {
  const reach = useReach(laid.bench.meter === "hand" ? null : reachOf(laid, wished)).shown;
  const now = useExposure(exposureOf(laid)).answer?.seconds;
  if (!reach) return null;
  const rungs = reach.rungs.filter((rung) => rung.seconds <= DAY_S);
  if (rungs.length === 0) return null;
  const scale = axis(
    rungs.flatMap((rung) => [rung.seconds, rung.seconds_to]),
    TOP,
    BOTTOM,
  );
  const { purchase } = reach;
  return (
    <section className="reach-glance" aria-label={say.glance}>
      <h2>{say.glance}</h2>
      <svg className="staff" width={240} height={HIGH} aria-hidden>
        <rect className="pole" x={0} y={TOP - 10} width={8} height={HIGH - TOP + 8} />
        {rungs.map((rung) => {
          const [low, top] = [scale(rung.seconds), scale(rung.seconds_to)];
          return rung.stops === rung.stops_to ? (
            <line key={rung.stops} className="reach-rung" x1={12} x2={12 + WIDE} y1={low} y2={low} />
          ) : (
            <rect
              key={`${rung.stops} ${rung.stops_to}`}
              className="reach-turns"
              x={12}
              width={WIDE}
              y={top}
              height={Math.max(2, low - top)}
            />
          );
        })}
        {ticks(scale, 44)
          .filter(({ seconds }) => now === undefined || Math.abs(scale(seconds) - scale(now)) > 18)
          .map((tick) => (
            <g key={tick.label}>
              <line
                className="tick"
                x1={12 + WIDE + 4}
                x2={12 + WIDE + 12}
                y1={scale(tick.seconds)}
                y2={scale(tick.seconds)}
              />
              <text className="tick-label" x={12 + WIDE + 18} y={scale(tick.seconds)} dy="0.34em">
                {tick.label}
              </text>
            </g>
          ))}
        {now !== undefined && now >= scale.ends[0] && now <= scale.ends[1] && (
          <>
            <line className="reach-now" x1={8} x2={12 + WIDE + 10} y1={scale(now)} y2={scale(now)} />
            <text className="reach-now-said" x={12 + WIDE + 18} y={scale(now)} dy="0.34em">
              {say.now(timeText(now))}
            </text>
          </>
        )}
      </svg>
      <p className="quiet">{say.from(laid.bench.shutter)}</p>
      {purchase && <p>{say.more(bagWords.stops(purchase.stops.toFixed(0)))}</p>}
    </section>
  );
}
