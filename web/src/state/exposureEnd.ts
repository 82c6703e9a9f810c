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

/** Where the frame stands at a time, between the core's own points. */
export function standing(closing: ExposureEnd | undefined, seconds: number): Pick<Point, "gathered" | "stops"> | null {
  const track = closing?.track ?? [];
  const place = track.findIndex((point) => point.seconds >= seconds);
  const [before, after] = [track[place - 1], track[place]];
  if (after && place === 0) return after;
  if (!before || !after) return track.at(-1) ?? null;
  const share = (seconds - before.seconds) / (after.seconds - before.seconds);
  const between = (a: number, b: number) => a + (b - a) * share;
  return { gathered: between(before.gathered, after.gathered), stops: between(before.stops, after.stops) };
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
  return closing.close_after_seconds;
}
