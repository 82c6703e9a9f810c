import { keptLooks } from "./exposureEnd";
import { changeFrame, type Frame } from "./frames";
import { lightWatch, looksFrom, looksOf } from "./lightWatch";

/** What a run knows of its light: at the opening, on the way, and which of two that contradict each other saw it. */

type Run = NonNullable<Frame["run"]>;

const DAY_S = 86_400;
/** Light is reckoned with within so many stops of the metering. */
const MOST_MOVED = 40;

/** What is exposed to the light that was metered. */
const LIT: ReadonlySet<Run["purpose"]> = new Set<Run["purpose"]>(["frame", "series", "trial"]);

function withinReach(stops: number): number {
  return Math.max(-MOST_MOVED, Math.min(MOST_MOVED, stops));
}

export function isLit(run: Run | null | undefined): boolean {
  return run != null && LIT.has(run.purpose);
}

/** The light as it is known when a shutter opens, which may be minutes after its plan was `made` [ms]. */
export function lightAtOpening(
  { run, reading }: Pick<Frame, "reading"> & { run: Run },
  made: number,
  opened: number,
): Pick<Run, "delay_seconds" | "moved_stops" | "looks"> {
  const metered = reading.metered_at == null ? null : Date.parse(reading.metered_at);
  const waited = Math.max(0, (opened - made) / 1000);
  const moved = run.moved_stops ?? null;
  const looksSince = (from: number | null) =>
    from !== null && isLit(run) ? looksFrom(lightWatch(), opened, from) : [];
  // Known from the frame before: it has gone on moving since.
  if (moved !== null) {
    const now = moved + ((run.stops_per_minute ?? 0) / 60) * waited;
    return {
      delay_seconds: Math.min(run.delay_seconds + waited, DAY_S),
      moved_stops: withinReach(now),
      looks: looksSince(made),
    };
  }
  const looks = looksSince(metered);
  if (run.stops_per_minute == null && looks.length === 0)
    return { delay_seconds: run.delay_seconds, moved_stops: null, looks };
  const since = metered === null ? run.delay_seconds + waited : Math.max(0, (opened - metered) / 1000);
  return { delay_seconds: Math.min(since, DAY_S), moved_stops: null, looks };
}

/** What is counted from the opening, of a shutter that opened so many seconds earlier than thought. */
export function fromEarlier(run: Run, seconds: number): Partial<Run> {
  const on = seconds * run.speed;
  const moved = run.moved_stops ?? null;
  return {
    ...(run.server_clock && { server_clock: { ...run.server_clock, seconds: run.server_clock.seconds - seconds } }),
    // A reading may come to lie before an opening that was later than thought.
    rereads: run.rereads.map((each) => ({ ...each, at_seconds: each.at_seconds + on })),
    looks: keptLooks({ run }).map((each) => ({ ...each, at_seconds: each.at_seconds + on })),
    delay_seconds: Math.max(0, Math.min(DAY_S, run.delay_seconds - seconds)),
    moved_stops: moved === null ? null : withinReach(moved - ((run.stops_per_minute ?? 0) / 60) * seconds),
  };
}

/** What the watch has seen so far goes to the frame, so that another device or a reload has it too. */
export async function noteLooks(id: string): Promise<void> {
  await changeFrame(id, (frame) =>
    frame.state === "open" && frame.run
      ? { ...frame, run: { ...frame.run, looks: looksOf(lightWatch(), frame) ?? keptLooks(frame) } }
      : undefined,
  );
}

/** Which of them saw the scene, where a reading stood against the watch. */
export async function believe(id: string, place: number, believed: boolean): Promise<void> {
  await changeFrame(id, (frame) => {
    if (frame.state !== "open" || !frame.run) return undefined;
    const rereads = frame.run.rereads.map((each, at) => (at === place ? { ...each, believed } : each));
    return { ...frame, run: { ...frame.run, rereads } };
  });
}
