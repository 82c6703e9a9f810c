import type { ScaleTime } from "d3-scale";
import type { Schemas } from "../../api/client";
import type { Swaps } from "../../questions/light";
import { noWay } from "./planSentences";
import { words } from "../../words";

interface Props {
  swaps: Swaps | undefined;
  frames: Schemas["PlannedFramesAnswer"] | undefined;
  x: ScaleTime<number, number>;
  first: number;
  last: number;
  nameOf: (id: string) => string;
}

const STACK = 28;
const BAR = 8;
/** Thinner than this a name says nothing [px]. */
const NAMED = 70;

/** Which filters when, and under them the frames that fit, each as long as its shutter is open. */
export function SwapLane({ swaps, frames, x, first, last, nameOf }: Props) {
  const within = (from: string, to: string) =>
    [x(Math.max(first, Date.parse(from))), x(Math.min(last, Date.parse(to)))] as const;
  return (
    <>
      {swaps?.stretches.map((stretch, place) => {
        const [from, to] = within(stretch.start, stretch.end);
        if (to <= from) return null;
        const name = stretch.glass ? stretch.glass.map(nameOf).join(" + ") || words.bare : noWay(stretch);
        return (
          <g key={stretch.start} className={stretch.glass ? `swap swap-${place % 2}` : "swap swap-none"}>
            <title>{name}</title>
            <rect x={from} width={Math.max(1, to - from - 1)} height={STACK} rx="2" />
            {to - from > NAMED && (
              <text x={from + 6} y={STACK / 2} dy="0.35em">
                {cut(name, (to - from - 12) / 7)}
              </text>
            )}
          </g>
        );
      })}
      {frames?.frames.map((frame) => {
        const [opens, closes] = within(frame.opens, frame.closes);
        const [, ready] = within(frame.closes, frame.ready);
        if (closes <= opens) return null;
        return (
          <g key={frame.opens} className="planned">
            <rect x={opens} width={Math.max(0.8, closes - opens)} y={STACK + 3} height={BAR} />
            {ready > closes && (
              <rect className="planned-dark" x={closes} width={ready - closes} y={STACK + 5} height={BAR - 4} />
            )}
          </g>
        );
      })}
    </>
  );
}

function cut(text: string, letters: number): string {
  return text.length <= letters ? text : `${text.slice(0, Math.max(1, Math.floor(letters) - 1))}…`;
}
