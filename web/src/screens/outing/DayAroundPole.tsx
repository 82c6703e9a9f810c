import type { Day } from "../../state/planning";
import { clockIn } from "../../words/clock";

/** An event of the sun that a day's hours hang on, and how many of them stand before and after it. */
export interface Pole {
  event: "sunrise" | "sunset";
  before: number;
  after: number;
}

interface Props {
  day: Day;
  pole: Pole;
  /** Whether the moon matters. */
  moon: boolean;
  zone: string;
}

const HOUR = 3_600_000;

/** A day around its pole: the look within reach, the turns of the water, the moon. Whoever shows it says it in words. */
export function DayAroundPole({ day, pole, moon, zone }: Props) {
  const at = day.events.find(({ name }) => name === pole.event)?.at;
  if (at == null) return <span className="day-hours" />;
  const first = Date.parse(at) - pole.before * HOUR;
  const whole = (pole.before + pole.after) * HOUR;
  const share = (ms: number) => `${(Math.min(1, Math.max(0, (ms - first) / whole)) * 100).toFixed(2)}%`;
  const within = (ms: number) => ms > first && ms < first + whole;
  const bars = (spans: Day["look"]) =>
    spans
      .map(({ start, end }) => [Math.max(first, Date.parse(start)), Math.min(first + whole, Date.parse(end))] as const)
      .filter(([from, to]) => to > from)
      .map(([from, to]) => ({ left: share(from), right: `calc(100% - ${share(to)})` }));
  return (
    <span className="day-hours" aria-hidden>
      <i className="day-pole" style={{ left: share(Date.parse(at)) }} />
      {bars(day.look).map((style) => (
        <i key={style.left} className="day-look" style={style} />
      ))}
      {moon &&
        bars(day.moon_up).map((style) => (
          <i key={style.left} className="day-moon" style={{ ...style, opacity: 0.25 + 0.75 * day.lit }} />
        ))}
      {day.waters
        .filter((turn) => within(Date.parse(turn.at)))
        .map((turn) => (
          <span
            key={turn.at}
            className={turn.high ? "day-high" : "day-low"}
            style={{ left: share(Date.parse(turn.at)) }}
          >
            <i />
            {clockIn(Date.parse(turn.at), zone)}
          </span>
        ))}
    </span>
  );
}
