import { bagWords } from "../../words/bag";
import { signedStops, tenthStops } from "../../words/times";
import type { Known } from "../../questions/log";

const WIDE = 360;
const HIGH = 96;
const EDGE = 34;

/** Every frame's own word on a glass, a dot each in the order of time, and what they say together. */
export function EvidencePlot({ known }: { known: Known }) {
  const dots = known.witnesses;
  const far = Math.max(0.5, ...dots.map((dot) => Math.abs(dot.error_stops)), Math.abs(known.mean) + 2 * known.sd);
  const reach = Math.ceil(far * 2) / 2;
  const y = (stops: number) => HIGH / 2 - (stops / reach) * (HIGH / 2 - 8);
  const x = (at: number) => EDGE + ((at + 0.5) / Math.max(dots.length, 1)) * (WIDE - EDGE - 8);
  const sure = 2 * known.sd;
  const text = bagWords.own.plot(known.name, tenthStops(known.mean), sure.toFixed(1), dots.length);
  return (
    <svg className="evidence" viewBox={`0 0 ${WIDE} ${HIGH}`} role="img" aria-label={text}>
      <rect
        className="evidence-band"
        x={EDGE}
        width={WIDE - EDGE}
        y={y(known.mean + sure)}
        height={Math.max(2, y(known.mean - sure) - y(known.mean + sure))}
      />
      <line className="evidence-label" x1={EDGE} x2={WIDE} y1={y(0)} y2={y(0)} />
      <line className="evidence-mean" x1={EDGE} x2={WIDE} y1={y(known.mean)} y2={y(known.mean)} />
      {[reach, 0, -reach].map((stops) => (
        <text key={stops} x={EDGE - 6} y={y(stops) + 4} textAnchor="end">
          {stops === 0 ? "0" : signedStops(stops)}
        </text>
      ))}
      {dots.map((dot, at) => (
        <circle key={dot.frame} cx={x(at)} cy={y(dot.error_stops)} r={dots.length > 60 ? 2 : 4} />
      ))}
    </svg>
  );
}
