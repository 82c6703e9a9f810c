import type { Developed } from "../../questions/dryRun";
import { dryRunWords as words } from "../../words/dryRun";
import "./dryrun.css";

const WIDE = 300;
const HIGH = 64;

/** The histogram on the back of the simulated camera: black on the left, white on the right. */
export function DryHistogram({ developed }: { developed: Pick<Developed, "histogram" | "clipped_share"> }) {
  const { histogram, clipped_share: clipped } = developed;
  const say = words.frame;
  const most = Math.max(...histogram, 1e-6);
  const step = WIDE / histogram.length;
  const mean = histogram.reduce((sum, share, place) => sum + share * place, 0) / (histogram.length - 1);
  const where = say.means[Math.min(4, Math.floor(mean * 5))] ?? "";
  return (
    <svg
      className="dry-histogram"
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      role="img"
      aria-label={`${say.histogram}. ${say.histogramAlt(where, Math.round(clipped * 100))}`}
    >
      {histogram.map((share, place) => {
        const high = (share / most) * (HIGH - 4);
        return <rect key={place} x={place * step} y={HIGH - high} width={step + 0.3} height={high} />;
      })}
      {[0.25, 0.5, 0.75].map((at) => (
        <line key={at} x1={WIDE * at} x2={WIDE * at} y1="0" y2={HIGH} />
      ))}
      <path d={`M0 ${HIGH - 0.5} H${WIDE}`} />
    </svg>
  );
}
