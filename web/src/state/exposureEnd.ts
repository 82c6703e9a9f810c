import type { Schemas } from "../api/client";
import type { ExposureEnd } from "../questions/exposureEnd";
import type { Frame } from "./frames";
import { type LightWatch, looksOf } from "./lightWatch";

/** What a running frame asks about its end. */
export function exposureEndOf(frame: Frame, watch: LightWatch | null = null): Schemas["CloseInput"] | null {
  const { run } = frame;
  // A stopwatch has no end to ask about.
  if (!run || run.purpose === "stopwatch") return null;
  const looks = looksOf(watch, frame) ?? keptLooks(frame);
  // What a watch knows grows with the time; without one the question stands still.
  const seconds = Math.max(0, looks.at(-1)?.at_seconds ?? 0);
  return {
    needed_seconds: run.metered_seconds,
    bias_stops: run.bias_stops,
    opened_at: frame.opened_at,
    now: new Date(Date.parse(frame.opened_at) + seconds * 1000).toISOString(),
    delay_seconds: run.delay_seconds,
    stops_per_minute: run.stops_per_minute ?? null,
    readings: run.rereads,
    ev_points: [],
    film: run.film ?? null,
    tracked: true,
    rate_from_readings: true,
    rate_sd: run.rate_sd ?? null,
    moved_stops: run.moved_stops ?? null,
    // The watch in this browser has seen further than what the frame keeps of it.
    looks,
  };
}

/** What is asked of a frame that has ended: how it was closed against its aim, in the light as it is known. */
export function timingErrorOf(frame: Frame, aimed: number, actual: number): Schemas["TimingErrorInput"] {
  const { run } = frame;
  // A dark frame has no light.
  const lit = run && run.purpose !== "dark" ? run : null;
  return {
    planned_seconds: aimed,
    actual_seconds: actual,
    delay_seconds: lit?.delay_seconds ?? 0,
    stops_per_minute: lit?.stops_per_minute ?? null,
    readings: lit?.rereads ?? [],
    film: lit?.film ?? null,
    moved_stops: lit?.moved_stops ?? null,
    rate_sd: lit?.rate_sd ?? null,
    looks: lit ? keptLooks(frame) : [],
  };
}

/** What a frame keeps of a watch; one of an earlier build has no place for it. */
export function keptLooks({ run }: Pick<Frame, "run">): Schemas["LookedInput"][] {
  return (run as { looks?: Schemas["LookedInput"][] } | null)?.looks ?? [];
}

/** By how much a frame was made longer (+) or shorter while it ran [stops]; what was decided before is its plan. */
export function longerBy(frame: Pick<Frame, "events">): number {
  const news = frame.events.filter((event) => event.kind === "extended" || event.kind === "cut");
  return news.reduce((sum, event) => sum + (event.seconds ?? 0), 0);
}

type Point = ExposureEnd["track"][number];

/**
 * Where the frame stands at a time, between the core's own points: the share straight over the time, the stops over its
 * logarithm, before the first and past the last point as well.
 */
export function standing(closing: ExposureEnd | undefined, seconds: number): Pick<Point, "gathered" | "stops"> | null {
  const track = closing?.track ?? [];
  const nothing = track[0];
  if (!nothing || seconds <= 0) return nothing ?? null;
  const rising = track.filter((point) => point.seconds > 0);
  const found = rising.findIndex((point) => point.seconds >= seconds);
  const place = Math.max(1, found === -1 ? rising.length - 1 : found);
  const [before, after] = [rising[place - 1], rising[place]];
  if (!before || !after) return rising[0] ?? nothing;
  const over = (log: (seconds: number) => number) =>
    (log(seconds) - log(before.seconds)) / (log(after.seconds) - log(before.seconds));
  const foot = found === 0 ? nothing : before;
  const top = found === 0 ? before : after;
  const share = (seconds - foot.seconds) / (top.seconds - foot.seconds);
  return {
    gathered: foot.gathered + (top.gathered - foot.gathered) * share,
    stops: before.stops + (after.stops - before.stops) * over(Math.log2),
  };
}

/** The time at which the shutter should close [s on the camera's clock]; null when the frame never fills. */
export function aimedAt(frame: Frame, closing: ExposureEnd | undefined): number | null {
  const { run, answer: planned } = frame;
  const onDial = planned.dial_mark !== null;
  const watched = closing?.light != null;
  const learnt = watched || (run?.rereads.length ?? 0) > 0 || (run?.bias_stops ?? 0) !== 0;
  if (run?.purpose === "stopwatch") return null;
  // The dial closes itself; without news of the light the plan stands.
  if (onDial || !run || !closing || run.purpose === "dark") return planned.set_seconds;
  if (!learnt && run.stops_per_minute == null) return planned.set_seconds;
  const after = closing.close_after_seconds;
  // The plan counted its delay in half minutes: so small a difference is no second time for one frame.
  const same = after !== null && Math.abs(Math.log2(after / planned.set_seconds)) < SAME;
  return !learnt && same ? planned.set_seconds : after;
}

/** Ends closer than this are one end [stops]. */
const SAME = 0.02;
