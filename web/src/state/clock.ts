import { askTime } from "../questions/run";
import { isReal, nowMs } from "../ui/worldClock";
import type { Frame } from "./frames";
import { store } from "./store";

/**
 * How long a shutter has been open, whatever happens to clocks and pages. While one page lives its own monotonic count
 * is the truth; a page that comes later asks a living one, then the server, whose count lives through reloads, restarts
 * and changed clocks; only when neither lived does the wall clock count, and then the person is asked.
 */
export type Source = "own" | "page" | "server" | "wall";

interface Anchor {
  /** This page's monotonic count [ms], and the real seconds that the shutter had been open then. */
  perf: number;
  seconds: number;
  wall: number;
  source: Source;
}

interface Ask {
  ask: string;
}
interface Tell {
  tell: string;
  seconds: number;
}

const anchors = new Map<string, Anchor>();
const channel = "BroadcastChannel" in globalThis ? new BroadcastChannel("jackstaff.run") : null;
/** Last sign of life of a run in this browser: on the wall, and how long it had been open. */
const ALIVE = "alive";
interface Alive {
  id: string;
  wall: number;
  seconds: number;
}

const PAGE_ANSWERS_MS = 150;
/** A gap without life shorter than this is a reload. */
const RELOAD_S = 20;
/** Wall and monotonic clock apart by more than this: one was changed, or the machine slept. */
const APART_S = 0.5;

channel?.addEventListener("message", (event: MessageEvent<Ask | Tell>) => {
  if (!("ask" in event.data)) return;
  const anchor = anchors.get(event.data.ask);
  if (anchor && anchor.source !== "wall")
    channel.postMessage({ tell: event.data.ask, seconds: seconds(anchor) } satisfies Tell);
});

function seconds(anchor: Anchor): number {
  return anchor.seconds + (performance.now() - anchor.perf) / 1000;
}

function set(id: string, open: number, source: Source): Anchor {
  const anchor = { perf: performance.now(), seconds: open, wall: Date.now(), source };
  anchors.set(id, anchor);
  return anchor;
}

/** The shutter opened `ago` seconds before this call, in this page. */
export function opened(id: string, ago: number): void {
  set(id, ago, "own");
}

/** It really opened earlier or later than thought. */
export function shifted(id: string, by: number): void {
  const anchor = anchors.get(id);
  if (anchor) anchors.set(id, { ...anchor, seconds: anchor.seconds + by });
}

/** Real seconds that the shutter has been open. */
export function openSeconds(frame: Pick<Frame, "id" | "opened_at">): number {
  const anchor = isReal() ? anchors.get(frame.id) : undefined;
  return anchor ? seconds(anchor) : (nowMs() - Date.parse(frame.opened_at)) / 1000;
}

/** The same on the camera's clock, which practice may speed up. */
export function cameraSeconds(frame: Pick<Frame, "id" | "opened_at" | "run">): number {
  return Math.max(0, openSeconds(frame) * (frame.run?.speed ?? 1));
}

/** The instant now on the run's own clock: opening plus what was counted. */
export function runNow(frame: Pick<Frame, "id" | "opened_at">): Date {
  return new Date(Date.parse(frame.opened_at) + openSeconds(frame) * 1000);
}

/** Leave a sign of life, so that a reload is told from an absence. */
export function signOfLife(frame: Frame): void {
  if (!isReal()) return;
  void store.setNote(ALIVE, { id: frame.id, wall: Date.now(), seconds: openSeconds(frame) } satisfies Alive);
}

/** The server's own count at the opening, for those who come later; null when it cannot be asked. */
export async function steadyAt(frame: Pick<Frame, "id" | "opened_at">) {
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
  const told = await fromPage(frame.id);
  if (told !== null) return set(frame.id, told, "page").source;
  const steady = await fromServer(frame);
  if (steady !== null) return set(frame.id, steady, "server").source;
  const wall = (Date.now() - Date.parse(frame.opened_at)) / 1000;
  const last = (await store.note(ALIVE)) as Alive | undefined;
  const gap = last?.id === frame.id ? (Date.now() - last.wall) / 1000 : Number.NaN;
  // A reload without a server: the gap is short and what was counted then goes on.
  if (last && gap >= 0 && gap < RELOAD_S) return set(frame.id, last.seconds + gap, "page").source;
  return set(frame.id, Math.max(0, wall), "wall").source;
}

function fromPage(id: string): Promise<number | null> {
  if (!channel) return Promise.resolve(null);
  return new Promise((resolve) => {
    const hear = (event: MessageEvent<Ask | Tell>) => {
      if ("tell" in event.data && event.data.tell === id) done(event.data.seconds);
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

async function fromServer(frame: Frame): Promise<number | null> {
  const steady = frame.run?.steady;
  if (!steady) return null;
  const before = performance.now();
  try {
    const now = await askTime();
    if (now.count !== steady.count) return null;
    return now.seconds - steady.seconds + (performance.now() - before) / 2000;
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
  const open = seconds(anchor);
  if (truth === null) {
    // Nobody else to ask: forward may have been sleep, backward cannot.
    anchors.set(frame.id, { ...anchor, wall: Date.now() - own * 1000 });
    return wall > own ? "unknown" : "clock_changed";
  }
  const slept = Math.abs(truth - open) > APART_S;
  set(frame.id, slept ? truth : open, slept ? "server" : anchor.source);
  return slept ? "slept" : "clock_changed";
}

/** What the person says it has been, after nobody watched [real seconds]. */
export function corrected(id: string, open: number): void {
  set(id, open, "own");
}
