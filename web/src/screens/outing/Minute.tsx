import { Button } from "react-bootstrap";
import { useLocation } from "wouter";
import { useExposure } from "../../questions/bench";
import type { Light, Swaps } from "../../questions/light";
import { exposureOf } from "../../state/asks";
import type { Bench, Glass, Laid, Move } from "../../state/bench";
import { type Outing, useOutings } from "../../state/outings";
import { words } from "../../words";
import { clockIn } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { markText, roughTime, timeText } from "../../words/times";
import { wallTime } from "../../words/zone";

type Stretch = Swaps["stretches"][number];

interface Props {
  outing: Outing;
  point: Light["points"][number];
  laid: Laid;
  move: (move: Move) => void;
  swaps: Swaps | undefined;
  /** Whether it is known what the plan puts on: before that the bench would be set without it. */
  planned: boolean;
  nameOf: (id: string) => string;
}

/** One minute of the plan: what the meter would say, what the look needs then, and the bench made ready for it. */
export function Minute({ outing, point, laid, move, swaps, planned, nameOf }: Props) {
  const say = outingWords.minute;
  const [, go] = useLocation();
  const { choose } = useOutings();
  const ms = Date.parse(point.at);
  const clock = clockIn(ms, outing.zone);
  // The last minute is still the last stretch's.
  const stretch = swaps?.stretches.findLast(({ start, end }) => ms >= Date.parse(start) && ms <= Date.parse(end));
  const { aperture, iso } = laid.bench;
  // As fine as the plan counts: rounded to a mark of the dial the bench would give another time than the plan.
  const ev100 = Math.round(point.ev100 * 100) / 100;
  const bare = useExposure({
    ...exposureOf(laid),
    reading: { ev100, step: laid.step, through: [] },
    stack: [],
    settings: { aperture, iso },
    film: null,
    light: null,
    chosen_seconds: null,
    expected_sd: point.sd_stops,
  });
  const meter = bare.answer;
  const mark = meter?.dial_mark ?? null;

  const turning = laid.bag.filter(({ id, kind }) => kind === "variable" && stretch?.glass?.includes(id));

  const prepare = () => {
    choose(outing.id);
    move({
      do: "set",
      change: {
        meter: "hand",
        ev100,
        meteredAt: null,
        expectedSd: point.sd_stops,
        earlier: [],
        before: [],
        through: [],
        floating: "time",
        targetSeconds: null,
        useOuting: true,
        lightAt: wallTime(ms, outing.zone),
        turned: { ...laid.bench.turned, ...turnedTo(turning, stretch, ms) },
        ...(stretch?.glass && { on: stretch.glass, shotAperture: stretch.aperture, shotIso: stretch.iso }),
      } satisfies Partial<Bench>,
    });
    go("/");
  };

  return (
    <div className="minute" data-stale={bare.stale || undefined}>
      <p>
        {meter &&
          say.meter(
            mark === null ? timeText(meter.seconds) : markText(mark),
            `f/${aperture}`,
            iso,
            roughTime(meter.from_seconds),
            roughTime(meter.to_seconds),
          )}
      </p>
      <p>
        {!planned
          ? words.bench.waiting
          : stretch === undefined
            ? say.noLook
            : stretch.glass === null
              ? stretch.too_fast
                ? say.tooFast
                : say.notYet
              : say.look(
                  stretch.glass.map(nameOf).join(" + ") || words.bare,
                  stretch.aperture ?? "",
                  stretch.iso ?? "",
                  clockIn(Date.parse(stretch.end), outing.zone),
                )}
      </p>
      <Button variant="quiet" disabled={!meter || !planned} onClick={prepare}>
        {say.set(clock)}
      </Button>
    </div>
  );
}

const STEP_MS = 60_000;

/** What the rings are turned to at a minute of the plan: the first as far as it goes, then the next. */
function turnedTo(turning: readonly Glass[], stretch: Stretch | undefined, ms: number): Record<string, number> {
  if (!stretch) return {};
  const step = Math.round((ms - Date.parse(stretch.start)) / STEP_MS);
  let left = stretch.turns[Math.min(step, stretch.turns.length - 1)] ?? 0;
  return Object.fromEntries(
    turning.map(({ id, low, high }) => {
      const by = Math.min(left, high - low);
      left -= by;
      return [id, low + by];
    }),
  );
}
