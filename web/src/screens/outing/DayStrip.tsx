import type { Day } from "../../state/planning";
import { wallTime } from "../../words/zone";
import { tones } from "./tones";

const WIDTH = 480;
const HEIGHT = 46;
const SKY = 26;
const HOUR = 3_600_000;

/** One day: the sky's tones, the hours of the look, the moon, high and low water. Said in words by whoever shows it. */
export function DayStrip({ day, zone }: { day: Day; zone: string }) {
  const [begins, ends] = [Date.parse(day.begins), Date.parse(day.ends)];
  const x = (instant: string | number) =>
    (((typeof instant === "number" ? instant : Date.parse(instant)) - begins) / (ends - begins)) * WIDTH;
  const hours = Array.from({ length: 24 }, (_, hour) => begins + hour * HOUR).filter((at) =>
    /^(06|12|18):/.test(wallTime(at, zone)),
  );
  return (
    <svg className="day-strip" viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none" aria-hidden>
      {tones(begins, ends, day.begins_deg, day.events).map(({ from, to, tone }) => (
        <rect key={from} className={`tone-${tone}`} x={x(from)} width={x(to) - x(from)} y={0} height={SKY} />
      ))}
      {day.look.map(({ start, end }) => (
        <rect key={start} className="day-look" x={x(start)} width={x(end) - x(start)} y={SKY - 9} height={9} />
      ))}
      {day.moon_up.map(({ start, end }) => (
        <rect
          key={start}
          className="day-moon"
          x={x(start)}
          width={x(end) - x(start)}
          y={SKY + 3}
          height={Math.max(1, 6 * day.lit)}
        />
      ))}
      {day.waters.map(({ at, high }) => (
        <path
          key={at}
          className={high ? "day-high" : "day-low"}
          d={high ? `M${x(at) - 6},${HEIGHT}h12l-6,-9z` : `M${x(at) - 6},${HEIGHT - 9}h12l-6,9z`}
        />
      ))}
      {hours.map((at) => (
        <line key={at} className="day-hour" x1={x(at)} x2={x(at)} y1={0} y2={HEIGHT} />
      ))}
    </svg>
  );
}
