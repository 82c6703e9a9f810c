import type { Schemas } from "../api/client";
import { words } from "../words";
import "./histogram.css";

const WIDE = 640;
const HIGH = 120;

type Digest = Schemas["DigestAnswer"];

/** A frame's tones on the axis of stops, filled; those of another over it as a line. */
export function Histogram({ digest, other }: { digest: Digest; other?: Digest }) {
  const say = words.histogram;
  const bins = digest.green.length;
  const shown = Math.min(bins, Math.round(12 / digest.bin_stops));
  const light = (of: Digest) =>
    of.green.slice(0, shown).map((green, at) => (green + (of.red[at] ?? 0) + (of.blue[at] ?? 0)) / 3);
  const [first, second] = [light(digest), other ? light(other) : []];
  const most = Math.max(...first, ...second, 1e-6);
  // Bright on the right, as on the back of a camera.
  const x = (at: number) => WIDE - (at / shown) * WIDE;
  const y = (part: number) => HIGH - (part / most) * (HIGH - 8);
  const steps = (values: number[]) =>
    values.map((part, at) => `${at === 0 ? "M" : "L"}${x(at)} ${y(part)} L${x(at + 1)} ${y(part)}`).join(" ");
  return (
    <svg className="histogram" viewBox={`0 0 ${WIDE} ${HIGH + 22}`} role="img" aria-label={say.tones}>
      <path className="histogram-first" d={`${steps(first)} L${x(shown)} ${HIGH} L${WIDE} ${HIGH} Z`} />
      {other && <path className="histogram-second" d={steps(second)} />}
      <line className="histogram-foot" x1="0" x2={WIDE} y1={HIGH} y2={HIGH} />
      {[0, 2, 4, 6, 8, 10].map((stops) => (
        <text key={stops} x={x(stops / digest.bin_stops)} y={HIGH + 16} textAnchor={stops === 0 ? "end" : "middle"}>
          {stops === 0 ? say.axis : `−${stops}`}
        </text>
      ))}
    </svg>
  );
}
