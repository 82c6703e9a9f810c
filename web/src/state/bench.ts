import { useCallback, useMemo } from "react";
import type { Schemas } from "../api/client";
import type { ExposureQuestion, Floating, Step } from "../questions/bench";
import { nowMs } from "../ui/worldClock";
import { chosen, clashing, type Glass, glassOf, itemsOf } from "./bag";
import { MOST, MOST_GLASSES, readBench } from "./benchKept";
import type { Cause } from "./frames";
import { type ItemOf, type KitItem, useKit } from "./kit";
import { DEMO_SCENE, FIRST_SCENE, type Scene } from "./scene";
import { DEMO, useSession } from "./session";
import { type Starter, useStarter } from "./starter";
import { drawer } from "./store";

/** What stands on the bench: the reading, what is on the lens, what is held and what floats. */
export type Scale = Schemas["Counting"];
export type { Floating } from "../questions/bench";
export type { Glass } from "./bag";
export { MOST_GLASSES, MOST_THIRDS } from "./benchKept";

/** What the meter says. */
interface Metered {
  meter: "camera" | "hand";
  /** Dial marks or literal text, as the API reads them. */
  shutter: string;
  aperture: string;
  iso: string;
  ev100: number;
  /** What was on the lens then, whatever is on now. */
  through: Through[];
}

/** A filter that was on at the metering, and what it was turned to then; as it was known, should it leave the bag. */
export interface Through {
  id: string;
  turn: number | null;
  glass: Pick<Glass, "name" | "kind" | "stops" | "offset" | "offset_sd"> | null;
}

/** A reading with its instant. */
type Taken = Metered & { at: string };

export interface Bench extends Metered {
  meteredAt: string | null;
  /** What stands there is an outing's forecast with this sd [stops], until somebody meters; null for a reading. */
  expectedSd: number | null;
  /** The same scene metered before, in order of time: how the light moves is known from these. */
  earlier: Taken[];
  /** What was metered before this reading, of a scene that may be the same: it is asked. */
  before: Taken[];
  /** What the frame is shot at; null follows the reading. */
  shotAperture: string | null;
  shotIso: string | null;
  scale: Scale;
  /** Ids in order from the lens outwards; null until the kit is known. */
  on: string[] | null;
  /** Filters of which somebody has said whether they were on at this metering. */
  throughSaid: string[];
  /** What variable glass is turned to, in stops. */
  turned: Record<string, number>;
  bodyId: string | null;
  lensId: string | null;
  holderId: string | null;
  filmId: string | null;
  focalMm: number | null;
  floating: Floating;
  /** A time that was decided [s]: what something else is worked out for, or what is used instead of the one worked out. */
  targetSeconds: number | null;
  scene: Scene;
  /** Whether the current outing's light counts, and at which clock time of it; null is now. */
  useOuting: boolean;
  lightAt: string | null;
  /** The instant of the reading that was far from the plan's sky, and the plan's rate is taken all the same. */
  skyBelieved: string | null;
  /** What somebody sees the light do where nothing better is known of it. */
  saidLight: SaidLight | null;
  /** What one sees without an outing; checks the reading and nothing else. */
  skySeen: Schemas["SkyPick"] | null;
  /** Brighter (+) or darker than the meter's grey on purpose [thirds of a stop]. */
  purposeThirds: number;
  /** Meant for black and white. */
  monochrome: boolean;
  /** What the frame that was set up again taught, and where it belongs. */
  correction: (NonNullable<ExposureQuestion["correction"]> & { because: Cause | null }) | null;
  /** The light as the last frame of this reading saw it move, until somebody meters. */
  seenLight: SeenLight | null;
}

/** The light falls (-) or rises (+) by a stop in so many minutes; 0 is steady. */
export interface SaidLight {
  at: string;
  stopMinutes: number;
}

/** How far the light had moved from the metering at an instant, and how it moves on. */
export interface SeenLight {
  at: string;
  moved_stops: number;
  moved_sd: number;
  stops_per_minute: number;
  rate_sd: number;
}

export type Move =
  | { do: "set"; change: Partial<Bench> }
  | { do: "meterAgain" }
  | { do: "sameScene" }
  | { do: "toggle"; id: string }
  /** It was on at the metering after all, or was not; what is on now stays. */
  | { do: "toggleThrough"; id: string }
  /** It is so as it stands: whether it was on at the metering is asked no more. */
  | { do: "saidThrough"; id: string }
  | { do: "bare" }
  | { do: "together"; id: string; members: string[] }
  | { do: "take"; on: string[]; aperture: string; iso: string; turned: Record<string, number> }
  | { do: "settle"; glass: Glass[] };

const FIRST_STOPS = 9;

/** What a change of the reading touches: it was metered now. */
const READING: (keyof Bench)[] = ["shutter", "aperture", "iso", "ev100", "meter"];
/** What a time is worked out from. */
const SUMMED: (keyof Bench)[] = [
  ...READING,
  "shotAperture",
  "shotIso",
  "scale",
  "bodyId",
  "filmId",
  "turned",
  "purposeThirds",
  "correction",
];

/** Whether a change is a reading. */
export function isReading(change: Partial<Bench>): boolean {
  return READING.some((key) => key in change) && !("expectedSd" in change);
}

/** Somebody meters: a forecast that stood in for it goes, and with it the minute it was for. */
function metering(state: Bench, now: Date, bag: readonly Glass[]): Partial<Bench> {
  return {
    ...(isDialling(state, now) ? {} : seenThrough(state, bag)),
    meteredAt: now.toISOString(),
    expectedSd: null,
    seenLight: null,
    // The light that was metered is the light of now, whichever minute had been chosen.
    lightAt: null,
    // What was wrong with the metering of the frame before is not wrong with this one.
    ...unlessFor(state, ["scene", null]),
  };
}

/** Whether a changed value is still the same reading, dialled or corrected. */
function isDialling({ meteredAt }: Bench, now: Date): boolean {
  return meteredAt !== null && now.getTime() - Date.parse(meteredAt) < DIALLING;
}

/**
 * What a new reading sees through: what the one before saw through and is on still, and every variable filter that is
 * on. One that nobody has turned stands at its weak end from then on. A hand meter sees none of it.
 */
function seenThrough(state: Bench, bag: readonly Glass[]): Pick<Bench, "through" | "throughSaid" | "turned"> {
  const before = new Set(state.through.map(({ id }) => id));
  const seen = bag.filter(({ id, kind }) => state.on?.includes(id) && (kind === "variable" || before.has(id)));
  const ends = seen.filter(({ id, kind }) => kind === "variable" && state.turned[id] === undefined);
  const turned = { ...state.turned, ...Object.fromEntries(ends.map(({ id, low }) => [id, low])) };
  return {
    through: state.meter === "hand" ? [] : seen.map((glass) => throughOf(glass, turned)),
    throughSaid: [],
    turned,
  };
}

function throughOf({ id, name, kind, stops, offset, offset_sd }: Glass, turned: Bench["turned"]): Through {
  return {
    id,
    turn: kind === "variable" ? (turned[id] ?? null) : null,
    glass: { name, kind, stops, offset, offset_sd },
  };
}

/** The bench without a correction that belongs to one of these. */
function unlessFor(state: Bench, causes: (Cause | null)[]): Pick<Bench, "correction"> {
  const { correction } = state;
  return { correction: correction && causes.includes(correction.because) ? null : correction };
}

/** Other filters are on: what was wrong with one of those before is not theirs. */
function restacked(state: Bench): Bench {
  return { ...workedOutAnew(state), ...unlessFor(state, ["filter"]) };
}

export function bench(held: Bench, move: Move, now: Date, bag: readonly Glass[] = []): Bench {
  // A named stack takes the place of its members, and a member that of the stack.
  const puts = move.do === "toggle" && !held.on?.includes(move.id);
  const state = puts ? clashing(bag, move.id).reduce(takeOff, held) : held;
  const on = state.on ?? [];
  switch (move.do) {
    case "set": {
      const metered = READING.some((key) => key in move.change);
      const summed = SUMMED.some((key) => key in move.change);
      const rest = summed ? workedOutAnew(state) : state;
      const meter = move.change.meter ?? state.meter;
      const read = metered ? { ...metering({ ...state, meter }, now, bag), ...followed(state, now) } : {};
      return { ...rest, ...read, ...move.change };
    }
    case "meterAgain":
      // A reading of the same scene: what stands there until it is dialled anew is what the meter says now.
      return {
        ...state,
        ...metering(state, now, bag),
        ...seenThrough(state, bag),
        earlier: [...state.earlier, ...old(state, now)].slice(-MOST),
        before: [],
      };
    case "sameScene":
      return { ...state, lightAt: null, earlier: [...state.before, ...state.earlier].slice(-MOST), before: [] };
    case "toggle":
      return restacked(on.includes(move.id) ? takeOff(state, move.id) : putOn(state, move.id, bag));
    case "toggleThrough": {
      const glass = bag.find(({ id }) => id === move.id);
      // The readings of this scene before were taken with the same hands.
      const said = <Reading extends Metered>(reading: Reading): Reading => ({
        ...reading,
        through: state.through.some(({ id }) => id === move.id)
          ? reading.through.filter(({ id }) => id !== move.id)
          : [...reading.through.filter(({ id }) => id !== move.id), ...(glass ? [throughOf(glass, state.turned)] : [])],
      });
      return workedOutAnew({
        ...said(state),
        earlier: state.earlier.map(said),
        throughSaid: [...state.throughSaid, move.id],
      });
    }
    case "saidThrough":
      return { ...state, throughSaid: [...state.throughSaid, move.id] };
    case "bare":
      return restacked({ ...state, on: [] });
    case "together": {
      const rest = (on: readonly string[]) => on.filter((id) => !move.members.includes(id));
      const metered = move.members.every((id) => state.through.some((each) => each.id === id));
      const { through } = state;
      return workedOutAnew({
        ...state,
        on: [...rest(on), move.id],
        through: metered
          ? [...through.filter(({ id }) => !move.members.includes(id)), { id: move.id, turn: null, glass: null }]
          : through,
      });
    }
    case "take":
      return {
        ...state,
        on: move.on,
        shotAperture: move.aperture,
        shotIso: move.iso,
        turned: { ...state.turned, ...move.turned },
        floating: "time",
        targetSeconds: null,
        ...unlessFor(state, ["filter"]),
      };
    case "settle": {
      const known = new Set(move.glass.map((glass) => glass.id));
      const stillOwned = on.filter((id) => known.has(id));
      if (state.on !== null && (stillOwned.length > 0 || on.length === 0)) return { ...state, on: stillOwned };
      // A kit not met before: one strong solid glass goes on, so that the bench answers at once.
      const solid = move.glass.filter((glass) => glass.kind === "solid");
      const distance = (glass: Glass) => Math.abs(glass.stops - FIRST_STOPS);
      const first = solid.toSorted((a, b) => distance(a) - distance(b))[0];
      return { ...state, on: first ? [first.id] : [] };
    }
  }
}

/** How long after metering a changed value is still the same reading, dialled or corrected [ms]. */
const DIALLING = 90_000;
/** How long a reading says something about the next [ms]. */
const REMEMBERED = 45 * 60_000;
/** The reading that stands there, where it is one of its own and no old story. */
function old({ meter, shutter, aperture, iso, ev100, through, meteredAt }: Bench, now: Date): Taken[] {
  const age = meteredAt === null ? -1 : now.getTime() - Date.parse(meteredAt);
  return meteredAt !== null && age >= DIALLING / 3 && age <= REMEMBERED
    ? [{ meter, shutter, aperture, iso, ev100, through, at: meteredAt }]
    : [];
}

/** What becomes of the earlier readings when another value is metered without a word whether the scene is the same. */
function followed(state: Bench, now: Date): Pick<Bench, "earlier" | "before"> {
  const age = state.meteredAt === null ? Infinity : now.getTime() - Date.parse(state.meteredAt);
  if (age < DIALLING) return { earlier: state.earlier, before: state.before };
  const known = [...(state.earlier.length > 0 ? state.earlier : state.before), ...old(state, now)];
  return { earlier: [], before: known.filter((each) => now.getTime() - Date.parse(each.at) <= REMEMBERED) };
}

/** A time that was chosen beside the one worked out was chosen for another sum: it is worked out anew. */
function workedOutAnew(state: Bench): Bench {
  return state.floating === "time" ? { ...state, targetSeconds: null } : state;
}

/** A graduated filter is outermost, where its line can be seen and moved; anything else goes on beneath it. */
function putOn(state: Bench, id: string, bag: readonly Glass[]): Bench {
  const on = state.on ?? [];
  if (on.includes(id) || on.length >= MOST_GLASSES) return state;
  const isGrad = (each: string) => bag.find((glass) => glass.id === each)?.kind === "graduated";
  const [grads, others] = [on.filter(isGrad), on.filter((each) => !isGrad(each))];
  return { ...state, on: isGrad(id) ? [...on, id] : [...others, id, ...grads] };
}

function takeOff(state: Bench, id: string): Bench {
  return { ...state, on: (state.on ?? []).filter((other) => other !== id) };
}

/** The bench with the kit it draws on. */
export interface Laid {
  bench: Bench;
  body: ItemOf<"body"> | undefined;
  lens: ItemOf<"lens"> | undefined;
  holder: ItemOf<"holder"> | undefined;
  film: ItemOf<"film"> | undefined;
  items: ItemOf<"glass">[];
  bag: Glass[];
  stack: Glass[];
  /** What the reading was taken through, each as it was then. */
  through: Glass[];
  step: Step;
  dialLimit: number;
  focalMm: number | undefined;
  /** Settings that the body leaves no choice in. */
  fixedAperture: string | null;
  fixedIso: string | null;
  /** How the light moves, where an outing says so. */
  light: NonNullable<ExposureQuestion["light"]> | null;
  /** What one's timer counts in [s], where somebody has said so. */
  timerSeconds: number | null;
}

export function lay(state: Bench, kit: KitItem[]): Laid {
  const body = chosen(kit, "body", state.bodyId);
  const lens = chosen(kit, "lens", state.lensId);
  const items = itemsOf(kit, "glass");
  const bag = items.map((item) => turnedTo(glassOf(item), state.turned));
  const through = glassThrough(state.through, items);
  const film = body?.facts.film ? chosen(kit, "film", state.filmId) : undefined;
  const fixed = body?.facts.fixed_aperture;
  return {
    bench: state,
    body,
    lens,
    holder: chosen(kit, "holder", state.holderId),
    film,
    items,
    bag,
    stack: (state.on ?? []).flatMap((id) => bag.filter((glass) => glass.id === id)),
    through,
    step: (body?.facts.step as Step | undefined) ?? "third",
    dialLimit: body?.facts.dial_limit_s ?? 30,
    focalMm: lens && Math.min(Math.max(state.focalMm ?? 0, lens.facts.focal_min_mm), lens.facts.focal_max_mm),
    fixedAperture: fixed == null ? null : String(fixed),
    fixedIso: film ? String(film.facts.iso) : null,
    light: null,
    timerSeconds: null,
  };
}

function turnedTo(glass: Glass, turned: Record<string, number>): Glass {
  if (glass.kind !== "variable") return glass;
  const stops = turned[glass.id];
  const known = { ...glass, offset: 0, offset_sd: glass.turned_sd ?? glass.offset_sd };
  return stops === undefined
    ? { ...known, stops: glass.low, open: glass.high - glass.low }
    : { ...known, stops: Math.min(Math.max(stops, glass.low), glass.high) };
}

/** The filters of a reading as they were then: as they are known today, or once were known. */
export function glassThrough(through: readonly Through[], items: readonly ItemOf<"glass">[]): Glass[] {
  return through.flatMap(({ id, turn, glass }) => {
    const item = items.find((each) => each.id === id);
    if (item) {
      const own = glassOf(item);
      return [turnedTo(own, { [id]: turn ?? own.low })];
    }
    return glass
      ? [{ ...glass, id, stops: turn ?? glass.stops, low: glass.stops, high: glass.stops, members: [] }]
      : [];
  });
}

/** Whether a filter was on at the metering, and whether it stood there as it stands now. */
export function wasOn(laid: Pick<Laid, "through">, { id }: Pick<Glass, "id">): boolean {
  return laid.through.some((glass) => glass.id === id);
}

/** What counts as in the reading as well: on then and now, and turned alike. */
export function stayedOn(laid: Pick<Laid, "through">, { id, stops, open }: Glass): boolean {
  return open === undefined && laid.through.some((then) => then.id === id && Math.abs(then.stops - stops) < 1e-9);
}

export function settingsOf({ bench: state, fixedAperture, fixedIso }: Laid): { aperture: string; iso: string } {
  return {
    aperture: fixedAperture ?? state.shotAperture ?? state.aperture,
    iso: fixedIso ?? state.shotIso ?? state.iso,
  };
}

/** Whether the lens can be set to an aperture; an unknown lens is taken to have it. */
export function hasAperture({ lens, fixedAperture }: Laid, mark: string): boolean {
  const { aperture_widest: widest, aperture_smallest: smallest } = lens?.facts ?? {};
  const f = Number(mark);
  return fixedAperture === null && f >= (widest ?? 0) && f <= (smallest ?? Infinity);
}

/** Whether the reading is the one that every bench begins with: an example that nobody metered. */
export function isExample(bench: Bench, starter: Starter | null): boolean {
  const first = starter ? fromStarter(starter) : START;
  return READING.every((key) => bench[key] === first[key]) && bench.meteredAt === null && bench.expectedSd === null;
}

const START: Bench = {
  meter: "camera",
  shutter: "1/40",
  aperture: "9",
  iso: "64",
  ev100: 12,
  meteredAt: null,
  expectedSd: null,
  earlier: [],
  before: [],
  shotAperture: null,
  shotIso: null,
  scale: "exact",
  on: null,
  through: [],
  throughSaid: [],
  turned: {},
  bodyId: null,
  lensId: null,
  holderId: null,
  filmId: null,
  focalMm: null,
  floating: "time",
  targetSeconds: null,
  scene: FIRST_SCENE,
  useOuting: true,
  lightAt: null,
  skyBelieved: null,
  saidLight: null,
  skySeen: null,
  purposeThirds: 0,
  monochrome: false,
  correction: null,
  seenLight: null,
};

export function fromStarter({ reading }: Pick<Starter, "reading">): Bench {
  return { ...START, ...reading };
}

/** The demo account's: a minute of its own outing, with a look chosen and the light on the move. */
function fromDemo({ demo }: Starter): Bench {
  return { ...START, ...demo.reading, on: demo.on, lightAt: demo.light_at, scene: DEMO_SCENE };
}

const ONE = "bench";

const drawn = drawer<Bench>({
  name: "bench",
  version: 1,
  check: (content) => readBench(content as object, START),
});

/** What stands on the bench, as the kit allows it: nothing stays on the lens that is not there any more. */
function standing(stored: Bench | null, starter: Starter | null, kit: KitItem[], demo: boolean): Bench | null {
  const state = stored ?? (starter && (demo ? fromDemo(starter) : fromStarter(starter)));
  return state && bench(state, { do: "settle", glass: itemsOf(kit, "glass").map(glassOf) }, new Date(nowMs()));
}

/** The bench of whoever is here, alike on every page, laid out with the kit. */
export function useBench(): [Laid | null, (move: Move) => void] {
  const starter = useStarter();
  const kit = useKit();
  const demo = useSession().username === DEMO;
  const stored = drawn.useOne(ONE);
  const laid = useMemo(() => {
    const state = kit.loading ? null : standing(stored, starter, kit.items, demo);
    return state?.on ? lay(state, kit.items) : null;
  }, [stored, starter, kit, demo]);
  const { items } = kit;
  const move = useCallback(
    (move: Move) => {
      // From what stands there now, whichever page put it there.
      const state = standing(drawn.get(ONE), starter, items, demo);
      if (state) void drawn.set(ONE, bench(state, move, new Date(nowMs()), itemsOf(items, "glass").map(glassOf)));
    },
    [starter, items, demo],
  );
  return [laid, move];
}

/** Lay the bench out for a picture of a dry run: nothing metered, nothing on, what is in front of the camera. */
export function layOutFor(part: Pick<Bench, "scene" | "focalMm"> & Partial<Bench>): void {
  const stored = drawn.get(ONE) ?? { ...START, on: [] };
  void drawn.set(ONE, { ...stored, meteredAt: null, earlier: [], before: [], targetSeconds: null, ...part });
}

/**
 * The frame on the bench stands as *Again* has set it up: corrected, at its aperture, its light as the last frame saw
 * it. Whoever looks at the bench next sees the same time.
 */
export function standAgain(part: Partial<Bench>): void {
  const stored = drawn.get(ONE);
  if (stored) void drawn.set(ONE, { ...stored, floating: "time", ...part });
}

/** What a filter measures is in its strength from now on: what the last frame taught of it is not counted twice. */
export function takenIntoFilter(): void {
  const stored = drawn.get(ONE);
  if (stored?.correction?.because === "filter") void drawn.set(ONE, { ...stored, correction: null });
}

/** What is on the lens, as it is reckoned; for a simulated camera, which sees through it. */
export function onLens(): { on: string[]; turned: Record<string, number> } {
  const { on, turned } = drawn.get(ONE) ?? START;
  return { on: on ?? [], turned };
}

/** Put the bench back to before the reading: the camera is blind, so it has to be metered anew. */
export function unmetered(): void {
  const stored = drawn.get(ONE);
  if (!stored) return;
  const before = [
    ...(stored.earlier.length > 0 ? stored.earlier : stored.before),
    ...old(stored, new Date(nowMs())),
  ].slice(-MOST);
  void drawn.set(ONE, { ...stored, meteredAt: null, earlier: [], before });
}
