import { useExposure } from "../../questions/bench";
import type { Light, Swaps } from "../../questions/light";
import { exposureOf } from "../../state/asks";
import type { Laid } from "../../state/bench";
import type { Outing } from "../../state/outings";
import { words } from "../../words";
import { clockIn } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { markText, roughTime, timeText } from "../../words/times";
import { evOf, stretchAt } from "./morning";

interface Props {
  outing: Outing;
  point: Light["points"][number];
  laid: Laid;
  swaps: Swaps | undefined;
  /** Whether it is known what the plan puts on. */
  planned: boolean;
  nameOf: (id: string) => string;
}

/** One minute of the plan: what the meter would say, and what the look needs then. */
export function MinuteSaid({ outing, point, laid, swaps, planned, nameOf }: Props) {
  const say = outingWords.minute;
  const stretch = stretchAt(swaps, Date.parse(point.at));
  const { aperture, iso } = laid.bench;
  const bare = useExposure({
    ...exposureOf(laid),
    reading: { ev100: evOf(point), step: laid.step, through: [] },
    stack: [],
    settings: { aperture, iso },
    film: null,
    light: null,
    chosen_seconds: null,
    expected_sd: point.sd_stops,
  });
  const meter = bare.answer;
  const mark = meter?.dial_mark ?? null;
  return (
    <span data-stale={bare.stale || undefined}>
      {meter &&
        say.meter(
          mark === null ? timeText(meter.seconds) : markText(mark),
          `f/${aperture}`,
          iso,
          roughTime(meter.from_seconds),
          roughTime(meter.to_seconds),
        )}{" "}
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
    </span>
  );
}
