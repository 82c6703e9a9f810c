import { useSyncExternalStore } from "react";
import * as v from "valibot";
import { askLook, type Look, type SkyKind } from "../questions/lightWatch";
import { Refused, type Schemas } from "../api/client";
import { type Frame, frameNow, openFrame } from "./frames";
import { patiently } from "../ui/lazily";
import type { CannotSee, Eyes, Unseen } from "./eyes";
import { drawer, store } from "./store";

/**
 * A phone that watches the light. The page that started it owns the eyes; what they saw, a number a look, is this
 * browser's, so that every page reads it and a reload loses nothing but the eyes. Pictures are measured and gone.
 */
type Sight = "starting" | "watching" | "moved" | "lost" | "away" | "ended";
/** Why it does not watch (any more). */
export type Why = Unseen | "tells_nothing" | "core" | "taken" | "other" | "long" | null;

export interface LightWatch {
  by: "camera" | "simulated";
  /** Which made-up sky, for the stand-in, and where it stood when it was last looked at [s; ms]. */
  sky: { kind: SkyKind; seed: number; second: number; at: number } | null;
  started: number;
  /** The last time that the eyes were open [ms]. */
  alive: number;
  sight: Sight;
  /** What a watch that starts waits for. */
  waits?: "camera" | "core";
  why: Why;
  looks: Looked[];
  /** The light up to this phone's own constant [stops], where it tells its exposure. */
  phone: number | null;
  /** The frame whose light this is, from its opening on. */
  frame: { id: string; opened: number; speed: number } | null;
}

interface Looked {
  /** On this browser's clock [ms]. */
  at: number;
  stops: number;
  sd: number;
  part: number;
}

const SHAPE = v.looseObject({
  by: v.picklist(["camera", "simulated"]),
  started: v.number(),
  alive: v.number(),
  sight: v.string(),
  looks: v.array(v.looseObject({ at: v.number(), stops: v.number(), sd: v.number(), part: v.number() })),
});

const ONE = "watch";
const drawn = drawer<LightWatch>({
  name: "lightwatch",
  version: 1,
  check: (content) => (v.is(SHAPE, content) ? (content as unknown as LightWatch) : null),
  // Its light is that of the open shutter.
  stays: (watch) => watch.frame !== null && watch.sight !== "ended",
});

/** How often one looks [ms]; practice that runs faster looks more often. */
const EVERY_MS = 4000;
const SOONEST_MS = 600;
/** Eyes that were not open for so long are taken to be shut [ms]. */
const SHUT_MS = 15_000;
/** Without a frame it stops by itself, for the battery's sake [ms]. */
const LONGEST_MS = 45 * 60_000;
/** Looks kept, here and with a frame: the older half is thinned when there are more. */
const MOST = 240;
/** Looks before the metering that teach what the phone showed at it [ms]. */
const BEFORE_MS = 60_000;
/** So little of the picture can be reckoned with that another exposure has to be found. */
const LITTLE = 0.35;

export function useLightWatch(): LightWatch | null {
  return drawn.useOne(ONE);
}

/** Whether a watch goes on, for those who need not hear of every look. */
export function useGoesOn(): boolean {
  return useSyncExternalStore(store.subscribe, goesOn);
}

function goesOn(): boolean {
  const watch = drawn.get(ONE);
  return watch !== null && watch.sight !== "ended";
}

export function lightWatch(): LightWatch | null {
  return drawn.get(ONE);
}

/** Whether somebody's eyes are open now, in this page or another. */
export function isWatching(watch: LightWatch, now = Date.now()): boolean {
  return watch.sight !== "ended" && now - watch.alive < SHUT_MS;
}

/** The eyes of this page, while they are open. */
let mine: { eyes: Eyes; owner: string; timer: number; eye: Look["eye"]; firstPart: number } | null = null;
/** The start that is on its way: a second tap opens no second camera, and one after *Stop* begins anew. */
let opening: { beat: number } | null = null;
/** How often a start that takes long says that somebody still waits for it [ms]. */
const BEAT_MS = 4000;

export function isMine(): boolean {
  return mine !== null;
}

function write(part: Partial<LightWatch>): void {
  const now = drawn.get(ONE);
  if (now) void drawn.set(ONE, { ...now, ...part });
}

/** Open the eyes. What was seen before in the last minutes stays, as a part of its own. */
export async function startWatching(by: LightWatch["by"], kind: SkyKind = "broken_cloud"): Promise<void> {
  if (mine || opening) return;
  const start = { beat: window.setInterval(() => write({ alive: Date.now() }), BEAT_MS) };
  opening = start;
  const before = drawn.get(ONE);
  const now = Date.now();
  const continues = before !== null && before.by === by && now - (before.looks.at(-1)?.at ?? 0) < LONGEST_MS;
  const watchBefore = continues ? before : null;
  const sky = by === "simulated" ? (watchBefore?.sky ?? { kind, seed: 1 + (now % 1000), second: 0, at: now }) : null;
  await drawn.set(ONE, {
    by,
    sky,
    started: watchBefore?.started ?? now,
    alive: now,
    sight: "starting",
    waits: sky ? "core" : "camera",
    why: null,
    looks: watchBefore?.looks ?? [],
    phone: null,
    // An open shutter is watched from here on; a frame that has ended has its light already.
    frame: openNow(),
  });
  const owner = store.owner;
  try {
    const { cameraEyes, simulatedEyes } = await patiently(() => import("./eyes"));
    const eyes = sky ? simulatedEyes(sky.kind, sky.seed, skySecond) : await cameraEyes(() => stopWatching("taken"));
    // Somebody else may be here by now, or the page may have been told to stop.
    if (opening !== start || store.owner !== owner || drawn.get(ONE)?.sight === "ended") {
      eyes.close();
      return;
    }
    write({ waits: "core" });
    const last = watchBefore?.looks.at(-1);
    mine = { eyes, owner, timer: 0, eye: null, firstPart: last ? last.part + 1 : 0 };
    await look();
  } catch (error) {
    if (opening === start) stopWatching(cannotSee(error) ? error.why : "core");
  } finally {
    letStartGo(start);
  }
}

function cannotSee(error: unknown): error is CannotSee {
  return error instanceof Error && error.name === "CannotSee";
}

function letStartGo(start: typeof opening): void {
  window.clearInterval(start?.beat);
  if (opening === start) opening = null;
}

function openNow(): LightWatch["frame"] {
  const frame = openFrame();
  return frame ? { id: frame.id, opened: Date.parse(frame.opened_at), speed: frame.run?.speed ?? 1 } : null;
}

export function stopWatching(why: Why = null): void {
  letStartGo(opening);
  if (mine) {
    window.clearTimeout(mine.timer);
    mine.eyes.close();
    const { owner } = mine;
    mine = null;
    if (store.owner !== owner && !drawn.isAnothers(ONE)) return;
  }
  write({ sight: "ended", why });
  drawn.letGo(ONE);
}

/** One look, and the next one in a moment. */
async function look(): Promise<void> {
  const me = mine;
  if (!me) return;
  if (store.owner !== me.owner && !drawn.isAnothers(ONE)) {
    // What one person's phone sees is nothing for another's account.
    stopWatching("other");
    return;
  }
  try {
    const glimpse = await me.eyes.see();
    if (glimpse === null) write({ sight: "away" });
    else take(me, await askLook({ ...glimpse, before: me.eye }));
  } catch (error) {
    if (error instanceof Refused) stopWatching("tells_nothing");
    else if (me.eye === null) stopWatching("core");
    // A stand-in that does not answer is a gap, not the end.
    else write({ sight: "lost" });
  }
  const watch = drawn.get(ONE);
  if (mine !== me) return;
  if (!watch || watch.sight === "ended") {
    me.eyes.close();
    mine = null;
    return;
  }
  // Ended elsewhere: its light is nobody's business any more.
  const followedFrame = watch.frame && frameNow(watch.frame.id);
  if (followedFrame && followedFrame.state !== "open") {
    stopWatching();
    return;
  }
  if (watch.frame === null && Date.now() - watch.started > LONGEST_MS) {
    stopWatching("long");
    return;
  }
  const speed = watch.by === "simulated" ? (watch.frame?.speed ?? 1) : 1;
  me.timer = window.setTimeout(() => void look(), Math.max(SOONEST_MS, EVERY_MS / speed));
}

function take(me: NonNullable<typeof mine>, found: Look): void {
  const now = drawn.get(ONE);
  // Another page may have stopped it meanwhile.
  if (!now || mine !== me || now.sight === "ended") return;
  // Whatever somebody does to the clock, looks follow each other.
  const at = Math.max(Date.now(), (now.looks.at(-1)?.at ?? 0) + 1);
  me.eye = found.eye;
  const looks =
    found.stops == null || found.sd == null
      ? now.looks
      : thin([...now.looks, { at, stops: found.stops, sd: found.sd, part: me.firstPart + found.part }]);
  write({ alive: at, sight: found.sight, why: null, looks, phone: found.phone_stops ?? now.phone });
  if (found.share < LITTLE && found.phone_stops !== null && me.eyes.settle) void me.eyes.settle();
}

/** Every other one of the older half goes. */
function thin(looks: Looked[]): Looked[] {
  if (looks.length <= MOST) return looks;
  const half = Math.floor(looks.length / 2);
  return looks.filter((_, place) => place >= half || place % 2 === 0);
}

/** Where the made-up sky stands: real seconds, from the opening on as fast as the practice runs. */
function skySecond(): number {
  const watch = drawn.get(ONE);
  if (!watch?.sky) return 0;
  const now = Date.now();
  const second = watch.sky.second + (Math.max(0, now - watch.sky.at) / 1000) * (watch.frame?.speed ?? 1);
  const sky = { ...watch.sky, second: Math.min(SKY_ENDS_S, second), at: now };
  write({ sky });
  return sky.second;
}

const SKY_ENDS_S = 3600;

type LookedFrom = Schemas["LookedInput"];

/** What was seen, in seconds from an instant [ms]; after it at the pace of a practice clock. */
export function looksFrom(watch: LightWatch | null, zero: number, from: number, speed = 1): LookedFrom[] {
  const lately = (watch?.looks ?? []).filter(({ at }) => at >= from - BEFORE_MS);
  return lately.map(({ at, stops, sd, part }) => ({
    at_seconds: ((at - zero) / 1000) * (at > zero ? speed : 1),
    stops,
    sd: Math.max(0.001, sd),
    part,
  }));
}

/** From the opening on the watch belongs to a frame. */
export function follow(id: string, opened: number, speed: number): void {
  const watch = drawn.get(ONE);
  // Eyes of this page are open however long a look takes on a slow phone.
  if (!watch || watch.sight === "ended" || (!isMine() && !isWatching(watch))) return;
  // The made-up sky goes faster from here on, not from its last look.
  const now = Date.now();
  const sky = watch.sky && { ...watch.sky, second: watch.sky.second + (now - watch.sky.at) / 1000, at: now };
  write({ frame: { id, opened, speed }, sky });
}

/** The frame has ended: so does the watch, unless another frame of the same light comes next. */
export function followed(id: string, another = false): void {
  const watch = drawn.get(ONE);
  if (watch?.frame?.id !== id) return;
  if (another) write({ frame: null, started: Date.now() });
  else if (mine || watch.sight !== "ended") stopWatching();
}

/** The looks that belong to a frame, while its watch is in this browser. */
export function looksOf(watch: LightWatch | null, { id, opened_at, run }: Watched): LookedFrom[] | null {
  if (watch?.frame?.id !== id) return null;
  const opened = Date.parse(opened_at);
  return looksFrom(watch, opened, opened - (run?.delay_seconds ?? 0) * 1000, watch.frame.speed);
}

type Watched = Pick<Frame, "id" | "opened_at" | "run">;
