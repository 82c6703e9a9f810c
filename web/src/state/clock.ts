import { askTime } from "../questions/run";
import { isReal, nowMs } from "../ui/worldClock";
import type { Frame } from "./frames";
import { store } from "./store";

/**
 * How long a shutter has been open, whatever happens to clocks and pages. While one page lives its own monotonic count
 * is the truth; a page that comes later asks a living one, then the server, whose count lives through reloads, restarts
 * and changed clocks; only when neither lived does the wall clock count, and then the person is asked.
 *
 * What is counted is the run's own clock: the wall's time at the opening, going on evenly from there. Since when the
 * shutter has been open stands in the frame alone, so an opening that is put right is right in every page.
 */
export type Source = "own" | "page" | "server" | "wall";

interface Anchor {
  /** This page's monotonic count [ms], and what the run's own clock and the wall said then [ms]. */
  perf: number;
  at: number;
  wall: number;
  source: Source;
}

type Opened = Pick<Frame, "id" | "opened_at">;

interface Ask {
  ask: string;
}
interface Tell {
  tell: string;
  /** The run's own clock now [ms]. */
  at: number;
  /** It is what somebody remembers: a page that knows no better takes it over. */
  corrected?: true;
}

const anchors = new Map<string, Anchor>();
const channel = "BroadcastChannel" in globalThis ? new BroadcastChannel("jackstaff.run") : null;
/** Last sign of life of a run in this browser: on the wall, and on the run's own clock [ms]. */
const ALIVE = "alive";
interface Alive {
  id: string;
  wall: number;
  at: number;
}

const PAGE_ANSWERS_MS = 150;
/** A gap without life shorter than this is a reload. */
const RELOAD_MS = 20_000;
/** Wall and monotonic clock apart by more than this: one was changed, or the machine slept. */
const APART_S = 0.5;

channel?.addEventListener("message", (event: MessageEvent<Ask | Tell>) => {
  if ("tell" in event.data) {
    const { tell, at, corrected = false } = event.data;
    if (corrected && anchors.get(tell)?.source === "wall") set(tell, at, "page");
    return;
  }
  const anchor = anchors.get(event.data.ask);
  if (anchor && anchor.source !== "wall")
    channel.postMessage({ tell: event.data.ask, at: onOwnClock(anchor) } satisfies Tell);
});

function onOwnClock(anchor: Anchor): number {
  return anchor.at + (performance.now() - anchor.perf);
}

function set(id: string, at: number, source: Source): Anchor {
  const anchor = { perf: performance.now(), at, wall: Date.now(), source };
  anchors.set(id, anchor);
  return anchor;
}

/** The shutter has just opened, in this page: its own clock is the wall's from here on. */
export function opened(id: string): void {
  set(id, Date.now(), "own");
}

/** The run's own clock now [ms]. */
function nowOf(id: string): number {
  const anchor = isReal() ? anchors.get(id) : undefined;
  return anchor ? onOwnClock(anchor) : nowMs();
}

/** Real seconds that the shutter has been open. */
export function openSeconds(frame: Opened): number {
  return (nowOf(frame.id) - Date.parse(frame.opened_at)) / 1000;
}

/** The same on the camera's clock, which practice may speed up. */
export function cameraSeconds(frame: Pick<Frame, "id" | "opened_at" | "run">): number {
  return Math.max(0, openSeconds(frame) * (frame.run?.speed ?? 1));
}

/** The instant now on the run's own clock: opening plus what was counted. */
export function runNow(frame: Opened): Date {
  return new Date(nowOf(frame.id));
}

/** Leave a sign of life, so that a reload is told from an absence. */
export async function signOfLife(frame: Frame): Promise<void> {
  if (!isReal()) return;
  await store.setNote(ALIVE, { id: frame.id, wall: Date.now(), at: nowOf(frame.id) } satisfies Alive);
}

/** The server's own count at the opening, for those who come later; null when it cannot be asked. */
export async function serverClockAt(frame: Opened) {
  if (!isReal()) return null;
  const before = openSeconds(frame);
  try {
    const now = await askTime();
    // The answer was made about half-way between asking and hearing.
    const then = (before + openSeconds(frame)) / 2;
    return { seconds: now.seconds - then, count: now.count };
  } catch {
    return null;
  }
}

/** Find out how long a frame has been open that this page did not open; already known ones answer at once. */
export async function watch(frame: Frame): Promise<Source> {
  // A dry run has one clock, which every page and every reload reads.
  if (!isReal()) return "own";
  const known = anchors.get(frame.id);
  if (known) return known.source;
  const fromOther = await fromPage(frame.id);
  if (fromOther !== null) return set(frame.id, fromOther, "page").source;
  const counted = await fromServer(frame);
  if (counted !== null) return set(frame.id, counted, "server").source;
  const last = (await store.note(ALIVE)) as Partial<Alive> | undefined;
  const gap = last?.id === frame.id ? Date.now() - (last.wall ?? Number.NaN) : Number.NaN;
  // A reload without a server: the gap is short and what was counted then goes on.
  if (last?.at !== undefined && gap >= 0 && gap < RELOAD_MS) return set(frame.id, last.at + gap, "page").source;
  return set(frame.id, Math.max(Date.parse(frame.opened_at), Date.now()), "wall").source;
}

function fromPage(id: string): Promise<number | null> {
  if (!channel) return Promise.resolve(null);
  return new Promise((resolve) => {
    const hear = (event: MessageEvent<Ask | Tell>) => {
      if ("tell" in event.data && event.data.tell === id) done(event.data.at);
    };
    const done = (found: number | null) => {
      channel.removeEventListener("message", hear);
      window.clearTimeout(timer);
      resolve(found);
    };
    const timer = window.setTimeout(() => done(null), PAGE_ANSWERS_MS);
    channel.addEventListener("message", hear);
    channel.postMessage({ ask: id } satisfies Ask);
  });
}

/** The run's own clock by the server's count [ms], where it lived through the run. */
async function fromServer(frame: Frame): Promise<number | null> {
  const opened = frame.run?.server_clock;
  if (!opened) return null;
  const before = performance.now();
  try {
    const now = await askTime();
    if (now.count !== opened.count) return null;
    const open = now.seconds - opened.seconds;
    return Date.parse(frame.opened_at) + open * 1000 + (performance.now() - before) / 2;
  } catch {
    return null;
  }
}

export type Jump = "none" | "slept" | "clock_changed" | "unknown";

/** Whether wall and own count have come apart since they were last alike, and which of them is right. */
export async function checked(frame: Frame): Promise<Jump> {
  const anchor = anchors.get(frame.id);
  if (!anchor || !isReal()) return "none";
  const wall = (Date.now() - anchor.wall) / 1000;
  const own = (performance.now() - anchor.perf) / 1000;
  if (Math.abs(wall - own) < APART_S) return "none";
  const truth = await fromServer(frame);
  // Somebody has said meanwhile how long it really was.
  if (anchors.get(frame.id) !== anchor) return "none";
  if (truth === null) {
    // Nobody else to ask: forward may have been sleep, backward cannot.
    anchors.set(frame.id, { ...anchor, wall: Date.now() - own * 1000 });
    return wall > own ? "unknown" : "clock_changed";
  }
  const counted = onOwnClock(anchor);
  const slept = Math.abs(truth - counted) > APART_S * 1000;
  set(frame.id, slept ? truth : counted, slept ? "server" : anchor.source);
  return slept ? "slept" : "clock_changed";
}

/** What the person says it has been, after nobody watched [real seconds]. */
export function corrected(frame: Opened, open: number): void {
  const { at } = set(frame.id, Date.parse(frame.opened_at) + open * 1000, "own");
  channel?.postMessage({ tell: frame.id, at, corrected: true } satisfies Tell);
}
