import type { Replay, Scenario } from "../../questions/dryRun";
import { useMeasured } from "../../ui/useMeasured";
import { clockIn } from "../../words/clock";
import { dryRunWords } from "../../words/dryRun";
import { timeText } from "../../words/times";

const say = dryRunWords.replay;
const HIGH = 250;
const LEFT = 96;
const RIGHT = 12;
const TOP = 16;
const LIGHT_HIGH = 120;
const LANE = 26;
const LEAST_WIDE = 4;

interface Props {
  replay: Replay;
  scenario: Scenario;
}

/** Light, one's own frames, what was possible, and the time to leave, on one axis of the place's clock. */
export function ReplayTimeline({ replay, scenario }: Props) {
  const [stage, size] = useMeasured<HTMLDivElement>();
  const start = Date.parse(scenario.starts_at);
  const zone = scenario.zone;
  const clock = (second: number) => clockIn(start + second * 1000, zone);
  return (
    <section className="replay-timeline" aria-label={say.timeline}>
      <h2>{say.timeline}</h2>
      <div ref={stage} style={{ height: HIGH }}>
        {size && <Drawn replay={replay} wide={size.width} clock={clock} />}
      </div>
      <details>
        <summary>{say.asTable}</summary>
        <ul className="plain-list">
          <li>
            {say.leaveBy} {clock(replay.leave_second)}
            {replay.left_second != null && `, ${say.left} ${clock(replay.left_second)}`}
          </li>
          {replay.frames.map((frame) => (
            <li key={frame.shot}>
              {clock(frame.from_second)}: {say.frame(frame.shot + 1)} {say.pictureOf(nameOf(replay, frame.framing))},{" "}
              {timeText(Math.max(0.001, frame.to_second - frame.from_second))}, {frame.developed.text}
            </li>
          ))}
          {replay.pictures.map(
            (picture) =>
              picture.possible && (
                <li key={picture.framing}>
                  {clock(picture.possible.from_second)}: {say.possible}, {picture.possible.text}
                </li>
              ),
          )}
        </ul>
      </details>
    </section>
  );
}

function nameOf(replay: Replay, framing: number): string {
  return replay.pictures[framing]?.name ?? "";
}

function Drawn({ replay, wide, clock }: { replay: Replay; wide: number; clock: (second: number) => string }) {
  const { light, frames, pictures, leave_second: leave, left_second: leftAt } = replay;
  const last = light.at(-1)?.second ?? 1;
  const x = (second: number) => LEFT + (Math.min(second, last) / last) * (wide - LEFT - RIGHT);
  const evs = light.map(({ ev100 }) => ev100);
  const low = Math.floor(Math.min(...evs));
  const high = Math.max(Math.ceil(Math.max(...evs)), low + 2);
  const y = (ev: number) => TOP + (1 - (ev - low) / (high - low)) * LIGHT_HIGH;
  const path = light.map(({ second, ev100 }, at) => `${at === 0 ? "M" : "L"}${x(second)} ${y(ev100)}`).join(" ");
  const mineAt = TOP + LIGHT_HIGH + 24;
  const possibleAt = mineAt + LANE + 8;
  const every = 600;
  const ticks = Array.from({ length: Math.floor(last / every) + 1 }, (_, at) => at * every);
  const bar = (from: number, to: number) => ({ x: x(from), width: Math.max(LEAST_WIDE, x(to) - x(from)) });
  return (
    <svg width={wide} height={HIGH} role="img" aria-label={`${say.timeline}. ${replay.text}`}>
      {[low, Math.round((low + high) / 2), high].map((ev) => (
        <g key={ev}>
          <line className="replay-grid" x1={LEFT} x2={wide - RIGHT} y1={y(ev)} y2={y(ev)} />
          <text x={LEFT - 6} y={y(ev) + 4} textAnchor="end">
            {String(ev).replace("-", "−")}
          </text>
        </g>
      ))}
      <text x={LEFT + 4} y={TOP - 4}>
        {say.light}
      </text>
      {ticks.map((second) => (
        <g key={second}>
          <line className="replay-grid" x1={x(second)} x2={x(second)} y1={TOP} y2={HIGH - 22} />
          <text x={x(second)} y={HIGH - 6} textAnchor={second === 0 ? "start" : second === last ? "end" : "middle"}>
            {clock(second)}
          </text>
        </g>
      ))}
      <path className="replay-light" d={path} />
      <text x={LEFT - 6} y={mineAt + 14} textAnchor="end">
        {say.framesRow}
      </text>
      <text x={LEFT - 6} y={possibleAt + 8} textAnchor="end">
        {say.possibleRow}
      </text>
      {frames.map((frame) => (
        <rect
          key={frame.shot}
          className="replay-mine"
          data-spoiled={frame.developed.faults.length > 0 || undefined}
          {...bar(frame.from_second, frame.to_second)}
          y={mineAt}
          height={LANE - 8}
        >
          <title>{`${say.frame(frame.shot + 1)}, ${clock(frame.from_second)}: ${frame.developed.text}`}</title>
        </rect>
      ))}
      {pictures.map(
        (picture) =>
          picture.possible && (
            <rect
              key={picture.framing}
              className="replay-possible"
              {...bar(picture.possible.from_second, picture.possible.to_second)}
              y={possibleAt - 6}
              height={LANE - 8}
            >
              <title>{picture.possible.text}</title>
            </rect>
          ),
      )}
      <line className="replay-leave" x1={x(leave)} x2={x(leave)} y1={TOP} y2={HIGH - 22} />
      <text className="replay-leave-word" x={x(leave) - 5} y={TOP + 12} textAnchor="end">
        {say.leaveBy} {clock(leave)}
      </text>
      {leftAt != null && <line className="replay-left" x1={x(leftAt)} x2={x(leftAt)} y1={mineAt - 8} y2={HIGH - 22} />}
    </svg>
  );
}
