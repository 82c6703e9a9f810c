import { useEffect } from "react";
import { askBegin, askReadMeter, type Begun, type Scenario } from "../questions/dryRun";
import type { Draft } from "../questions/kit";
import { easeSeconds, instantOf, nowMs, pace } from "../ui/worldClock";
import { layOutFor, onLens } from "./bench";
import { change, now } from "./dryRunClock";
import { type DryRun, dryRun, ONE, played } from "./dryRuns";
import { shotsOf } from "./dryRunShots";
import { finishedFrames, nothingRuns, openFrame } from "./frames";
import { itemsKept, keepItems } from "./kit";
import { keep as keepOuting } from "./outings";
import type { Kind } from "./scene";
import { isPractice, practise } from "./session";
import { store } from "./store";

/** How fast a dry run's clock may go: world seconds in a real one. */
export const PACES = [0, 1, 10, 60] as const;
const MOST_FRAMES = 40;
const MOST_LOOKED = 200;
/** As many replays as are kept. */
const MOST_PLAYED = 30;
export const BEAT_MS = 5000;

/**
 * Begin a dry run: its own kit, outing and bench, nothing of one's own touched. Throws in words what cannot be; false
 * where a real shutter is open, on whichever page of this browser: it is not left alone for a dry run.
 */
export async function beginDryRun(scenario: Scenario, seed: number | null, expert: boolean): Promise<boolean> {
  const runs = async () => !isPractice() && !(await nothingRuns());
  if (await runs()) return false;
  const begun = await askBegin({ scenario, seed });
  // It may have been opened while that was asked.
  if (await runs()) return false;
  await practise(true);
  const kit = begun.scenario.kit as unknown as (Partial<Draft> & Pick<Draft, "id" | "sort" | "name" | "facts">)[];
  await keepItems(kit.map((item) => ({ ...item, note: item.note ?? "", retired: item.retired ?? false })));
  keepOuting({ ...begun.outing });
  const start = Date.parse(begun.scenario.starts_at);
  await dryRun.set(ONE, {
    begun,
    expert,
    clock: { world: start, wall: Date.now(), pace: 1 },
    beat: Date.now(),
    framing: 0,
    looked: [],
    prepared: [],
    opened: {},
  });
  setUpFor(begun, 0, expert);
  return true;
}

/** Set the camera up for a picture: what was metered was of another one. */
export function goTo(framing: number): void {
  const run = now();
  if (!run || openFrame()) return;
  change({ framing, prepared: [] });
  setUpFor(run.begun, framing, run.expert);
}

function setUpFor({ scenario }: Begun, framing: number, expert: boolean): void {
  const picture = scenario.framings[framing];
  if (!picture) return;
  const subjects = picture.subjects.map((subject, place) => {
    const { kind, id, ...facts } = subject as { kind: Kind; id?: string | null } & Record<string, number | string>;
    return {
      id: id ?? `${kind}-${place}`,
      kind,
      facts: facts,
      told: Object.keys(facts),
    };
  });
  layOutFor({
    scene: {
      subjects,
      wants: picture.wants.map(({ kind, look }) => ({ kind, look })),
      elevationDeg: picture.elevation_deg,
      bearingDeg: picture.bearing_deg,
    },
    focalMm: picture.focal_mm,
    useOuting: !expert,
  });
}

/** Let the clock go faster, slower, or stand. */
export function setPace(next: number): void {
  changePace(() => next);
}

/** Let the clock stand, or go on. */
export function standOrGoOn(): void {
  changePace((pace) => (pace === 0 ? 1 : 0));
}

/** Let the clock go no faster than real time: whoever let it stand a moment ago, that still on its way, is not passed over. */
export function ease(): void {
  changePace((pace) => (pace > 1 ? 1 : undefined));
}

/** From the press on: what it takes to keep that is no time lost. `of` is told the pace as it stands, not as it was shown. */
function changePace(of: (pace: number) => number | undefined): void {
  const pressed = Date.now();
  void dryRun.change(ONE, (run) => {
    const next = run ? of(run.clock.pace) : undefined;
    if (!run || next === undefined) return undefined;
    const wall = Math.max(pressed, run.clock.wall);
    return { ...run, clock: { ...run.clock, world: instantOf(run.clock, wall), wall, pace: next }, beat: Date.now() };
  });
}

/** A sign of life. */
export function beat(): void {
  change({ beat: Date.now() });
}

/** Ease to real time shortly before what is open is due [world ms], and leave the clock in real time from then on. */
export function useEasedPace(due: number | null): void {
  const near = due !== null && due - nowMs() <= easeSeconds(pace()) * 1000;
  useEffect(() => {
    waitFor(due);
    // Another screen waits for it as well; once it has ended nobody does.
    return () => {
      if (!openFrame()) waitFor(null);
    };
  }, [due]);
  useEffect(() => {
    if (near && isPractice()) ease();
  }, [near]);
}

function waitFor(due: number | null): void {
  if (isPractice()) void dryRun.change(ONE, (run) => (run ? { ...run, clock: { ...run.clock, due } } : undefined));
}

/**
 * What the simulated camera's meter shows now: bare, or through what is on the lens. Null where the camera was pointed
 * at another picture before it answered, or packed up.
 */
export async function readMeter(settings: { aperture: string; iso: string }, through: boolean) {
  const run = now();
  if (!run) throw new Error("no dry run goes on");
  const at = new Date(nowMs()).toISOString();
  const stack = through ? lensOf(run) : [];
  const { framing } = run;
  const shown = await askReadMeter({ scenario: run.begun.scenario, framing, at, ...settings, through: stack });
  const look = { at, framing, through: stack.map(({ id }) => id) };
  const still = now();
  if (still?.framing !== framing || still.begun.leave_at !== run.begun.leave_at) return null;
  await dryRun.change(ONE, (held) => held && { ...held, looked: [...held.looked, look].slice(-MOST_LOOKED) });
  return shown;
}

/** What is on the lens, by the scenario's own keys. */
function lensOf({ begun }: DryRun): { id: string; stops: number }[] {
  const { on, turned } = onLens();
  const known = new Set(begun.scenario.kit.map((item) => String(item["id"])));
  const items = itemsKept();
  const single = on.flatMap((id) => {
    const item = items.find((each) => each.id === id);
    const members = item?.sort === "glass" ? item.facts.members : [];
    return members.length > 0 ? members : [id];
  });
  return single
    .filter((id) => known.has(id))
    .map((id) => {
      const item = items.find((each) => each.id === id);
      return { id, stops: turned[id] ?? (item?.sort === "glass" ? item.strength.stops : 0) };
    });
}

/** Pack up: the dry run is over. The id of its replay, null where there was none to leave. */
export async function leaveDryRun(): Promise<string | null> {
  const run = now();
  if (!run) {
    await practise(false);
    return null;
  }
  const shots = shotsOf(await finishedFrames(MOST_FRAMES), run, itemsKept());
  const left_at = new Date(nowMs()).toISOString();
  await practise(false);
  const id = crypto.randomUUID();
  await played.set(id, {
    name: run.begun.scenario.name,
    ended_at: new Date().toISOString(),
    expert: run.expert,
    question: { scenario: run.begun.scenario, shots, looked: run.looked, left_at },
  });
  for (const { id: old } of store.view(played.kind.name).slice(MOST_PLAYED)) await played.remove(old);
  return id;
}
