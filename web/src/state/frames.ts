import { useEffect, useState } from "react";
import * as v from "valibot";
import { documentOf, type Frame } from "../questions/frames";
import { nowMs } from "../ui/worldClock";
import { isZone, ITS_OWN } from "../words/zone";
import { heardOnce } from "./outbox";
import { drawer, store } from "./store";

export { documentOf, type Frame } from "../questions/frames";

/** Where somebody says that an error of exposure belongs. */
export type Cause = NonNullable<NonNullable<Frame["review"]>["because"]>;

const instant = v.pipe(
  v.string(),
  v.check((text) => !Number.isNaN(Date.parse(text))),
);
const SHAPE = v.looseObject({
  id: v.string(),
  state: v.picklist(["open", "closed", "aborted"]),
  opened_at: instant,
  closed_at: v.nullish(instant),
  note: v.string(),
  reading: v.looseObject({}),
  settings: v.looseObject({ aperture: v.string(), iso: v.string() }),
  stack: v.array(v.looseObject({ name: v.string(), stops: v.number() })),
  dial_limit: v.number(),
  answer: v.looseObject({ seconds: v.number(), set_seconds: v.number(), steps: v.array(v.looseObject({})) }),
  events: v.array(v.looseObject({ id: v.string(), at: v.string(), kind: v.string() })),
  run: v.nullish(v.looseObject({})),
  review: v.nullish(v.looseObject({})),
});

/** What parts of a frame were called when this browser first kept frames. */
const TODAY: Readonly<Record<string, string>> = {
  came_out: "error_stops",
  seen: "defects",
  steady: "server_clock",
};

function byTodaysNames(part: object | null | undefined) {
  return part && Object.fromEntries(Object.entries(part).map(([name, value]) => [TODAY[name] ?? name, value]));
}

/** A frame as it is kept, whichever day's program kept it. */
function frameOf(content: unknown): Frame | null {
  if (!v.is(SHAPE, content)) return null;
  const { run, review } = content;
  return { ...content, run: byTodaysNames(run), review: byTodaysNames(review) } as unknown as Frame;
}

const RUNNING = "1";
const ENDED = "0";
const TO_COME = "/";
const A_DAY = 86_400_000;

/** Where a frame stands in the log: the running one first, then the newest; one of a day to come, as a scenario's may be, last. */
export function placeInLog({ state, opened_at }: Pick<Frame, "state" | "opened_at">): string {
  const opened = Date.parse(opened_at);
  const first = state === "open" ? RUNNING : opened > nowMs() + A_DAY ? TO_COME : ENDED;
  return first + new Date(opened).toISOString();
}

/** Whether nobody worked its time out: it was only timed, and of the light and the camera nothing was said. */
export function onlyTimed({ run }: { run?: Frame["run"] }): boolean {
  return run?.purpose === "timer" || run?.purpose === "stopwatch";
}

/** The clock a frame's times are read on: its place's, else this device's. */
export function zoneOf({ conditions }: Pick<Frame, "conditions">): string {
  const zone = conditions?.zone;
  return zone != null && isZone(zone) ? zone : ITS_OWN;
}

/** Frames, the running one first, then the newest. */
const drawn = drawer<Frame>({
  name: "frame",
  version: 1,
  check: frameOf,
  wire: (frame) => ({ ...documentOf(frame) }),
  sort: placeInLog,
  paged: true,
  rests: (frame) => frame.pictured,
  stays: (frame) => frame.state === "open",
});

/** The newest frames, as many as asked for, and how many there are. */
export function useFrames(most: number): { frames: Frame[]; count: number; loading: boolean } {
  const all = drawn.use();
  const [loaded, setLoaded] = useState(0);
  const [count, setCount] = useState<number | null>(null);
  const { owner } = store;
  useEffect(() => {
    let there = true;
    void store
      .page("frame", most)
      .catch(() => undefined)
      .then(() => there && setLoaded(most));
    return () => {
      there = false;
    };
  }, [most, owner]);
  useEffect(() => {
    let there = true;
    void store.shelf.count(owner, "frame").then(
      (found) => there && setCount(found),
      () => there && setCount(null),
    );
    return () => {
      there = false;
    };
  }, [all, owner]);
  const own = all.filter((frame) => !isAnothers(frame.id));
  const frames = own.toSorted((a, b) => (placeInLog(a) < placeInLog(b) ? 1 : -1)).slice(0, most);
  return { frames, count: Math.max(count ?? 0, frames.length), loading: loaded === 0 && frames.length === 0 };
}

/** One frame; undefined while it is looked for, null where there is none. */
export function useFrame(id: string | null): Frame | null | undefined {
  const frame = drawn.useOne(id);
  const [missing, setMissing] = useState<string | null>(null);
  const here = frame !== null;
  const { owner } = store;
  useEffect(() => {
    if (id === null || here) return;
    let there = true;
    void store
      .fetch("frame", id)
      .catch(() => undefined)
      .then(() => there && setMissing(id));
    return () => {
      there = false;
    };
  }, [id, here, owner]);
  return frame ?? (id === null || missing === id ? null : undefined);
}

export function frameNow(id: string): Frame | null {
  return drawn.get(id);
}

/** Every finished frame in this browser, for whoever has to send them along with a question. */
export async function finishedFrames(most: number): Promise<Frame[]> {
  const docs = await store.shelf.newest(store.owner, "frame", most);
  return docs.flatMap((doc) => frameOf(doc.content) ?? []).filter((frame) => frame.state !== "open");
}

/** The finished frames that are in the page. */
export function useFinished(): Frame[] {
  return drawn.use().filter((frame) => frame.state !== "open");
}

/** Whether whoever opened it has left: it stays until it is closed, and goes to their log once they are back. */
export function isAnothers(id: string): boolean {
  return drawn.isAnothers(id);
}

/** Which open shutter this page looks at, and which it has left to whoever opened them. */
let inView: string | null = null;
/** Those that were open beside it. */
let beside: string[] = [];
let owner = "";
const leftAlone = new Set<string>();

/** The exposure that is running, wherever it was opened: of two it is the one that was here first. */
export function useOpenFrame(): Frame | undefined {
  return openOf(drawn.use());
}

export function openFrame(): Frame | undefined {
  return openOf(drawn.all());
}

function openOf(frames: readonly Frame[]): Frame | undefined {
  const open = frames.filter((frame) => frame.state === "open");
  if (owner !== store.owner) {
    // Whoever comes decides anew.
    [owner, beside] = [store.owner, []];
    leftAlone.clear();
  }
  const held = open.find(({ id }) => id === inView);
  // It has ended: what other devices have open is left to them, here one goes on with what has become of it.
  if (!held) for (const id of beside) leftAlone.add(id);
  const found = held ?? open.find(({ id }) => !leftAlone.has(id));
  inView = found?.id ?? null;
  beside = found ? open.map(({ id }) => id).filter((id) => id !== found.id) : [];
  return found;
}

const OPENED_HERE = "jackstaff opened here";

function noteOpenedHere(id: string): void {
  try {
    sessionStorage.setItem(OPENED_HERE, id);
  } catch {
    // A browser that keeps no notes takes it for another page's after a reload.
  }
}

/** Whether this page opened it last, or did before it was loaded anew. */
export function isOpenedHere(id: string): boolean {
  try {
    return sessionStorage.getItem(OPENED_HERE) === id;
  } catch {
    return false;
  }
}

/** Shutters that other devices have open beside the one that is looked at. */
export function useOthersOpen(): Frame[] {
  const frames = drawn.use();
  const shown = openOf(frames);
  return frames.filter((frame) => frame.state === "open" && frame.id !== shown?.id);
}

/** Look at this one from now on. */
export function lookAt(id: string): void {
  leftAlone.delete(id);
  [inView, beside] = [id, []];
  drawn.redraw();
}

/** An open shutter is another device's business: here one goes on with one's own. */
export function leaveAlone(id: string): void {
  leftAlone.add(id);
  if (inView === id) [inView, beside] = [null, []];
  drawn.redraw();
}

/**
 * Whether nothing runs, whichever page of this browser opened last: asked of what is kept, because news of another page
 * may still be on its way.
 */
export async function nothingRuns(): Promise<boolean> {
  // The running one stands first.
  await store.page("frame", 1).catch(() => undefined);
  // Whoever has just signed in may have one open on another device.
  await heardOnce();
  return openFrame() === undefined;
}

/** Until when a camera reduces noise from one of the frames here [ms]; 0 where none ever did. */
export function busyUntil(): number {
  return Math.max(0, ...drawn.all().map(({ run }) => (run?.busy_until == null ? 0 : Date.parse(run.busy_until))));
}

/** Write a frame that is new here. It is in the browser before it is shown. */
export function addFrame(frame: Frame): Promise<void> {
  if (frame.state === "open") {
    inView = frame.id;
    noteOpenedHere(frame.id);
  }
  return drawn.change(frame.id, () => frame);
}

/** Change a frame as it stands now, whichever page wrote it last; undefined leaves it as it is. */
export function changeFrame(id: string, how: (frame: Frame) => Frame | undefined): Promise<void> {
  return drawn.change(id, (frame) => (frame ? how(frame) : undefined));
}

/** Remove a frame; it comes back under its own key by being added again. */
export function removeFrame(id: string): Promise<void> {
  return drawn.remove(id);
}
