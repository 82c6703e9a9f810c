import type { Schemas } from "../api/client";
import { chosen, type Glass, glassOf, itemsOf } from "./bag";
import type { ItemOf, KitItem } from "./kit";
import { FIRST_SCENE, type Scene } from "./scene";

/** What stands on the bench: the reading, what is on the lens, what is held and what floats. */
export type ExposureQuestion = Schemas["ExposureAsked"];
export type SteerQuestion = Schemas["SteerAsked"];
export type Step = Schemas["Step"];
export type Scale = Schemas["Counting"];
export type Floating = Schemas["Floating"];
export type { Glass } from "./bag";

export interface Bench {
  meter: "camera" | "hand";
  /** Dial marks or literal text, as the API reads them. */
  shutter: string;
  aperture: string;
  iso: string;
  ev100: number;
  meteredAt: string | null;
  /** What the frame is shot at; null follows the reading. */
  shotAperture: string | null;
  shotIso: string | null;
  scale: Scale;
  /** Ids in order from the lens outwards; null until the kit is known. */
  on: string[] | null;
  inReading: string[];
  /** What variable glass is turned to, in stops. */
  turned: Record<string, number>;
  bodyId: string | null;
  lensId: string | null;
  holderId: string | null;
  filmId: string | null;
  focalMm: number | null;
  floating: Floating;
  /** The time held while something else floats [s]. */
  targetSeconds: number | null;
  scene: Scene;
  /** Whether the current outing's light counts, and at which clock time of it; null is now. */
  useOuting: boolean;
  lightAt: string | null;
  /** What one sees without an outing; checks the reading and nothing else. */
  skySeen: Schemas["SkyPick"] | null;
}

export type Move =
  | { do: "set"; change: Partial<Bench> }
  | { do: "toggle"; id: string }
  | { do: "toggleInReading"; id: string }
  | { do: "bare" }
  | { do: "take"; on: string[]; aperture: string; iso: string; turned: Record<string, number> }
  | { do: "settle"; glass: Glass[] };

export const MOST_GLASSES = 8;
const FIRST_STOPS = 9;

/** What a change of the reading touches: it was metered now. */
const READING: (keyof Bench)[] = ["shutter", "aperture", "iso", "ev100", "meter"];

export function bench(state: Bench, move: Move, now: Date): Bench {
  const on = state.on ?? [];
  switch (move.do) {
    case "set": {
      const metered = READING.some((key) => key in move.change);
      return { ...state, ...(metered ? { meteredAt: now.toISOString() } : {}), ...move.change };
    }
    case "toggle":
      return on.includes(move.id) ? takeOff(state, move.id) : putOn(state, move.id);
    case "toggleInReading": {
      if (state.inReading.includes(move.id)) {
        return { ...state, inReading: state.inReading.filter((id) => id !== move.id) };
      }
      const with_ = putOn(state, move.id);
      return with_.on?.includes(move.id) ? { ...with_, inReading: [...with_.inReading, move.id] } : state;
    }
    case "bare":
      return { ...state, on: [], inReading: [] };
    case "take":
      return {
        ...state,
        on: [...on.filter((id) => state.inReading.includes(id)), ...move.on],
        shotAperture: move.aperture,
        shotIso: move.iso,
        turned: { ...state.turned, ...move.turned },
        floating: "time",
        targetSeconds: null,
      };
    case "settle": {
      const known = new Set(move.glass.map((glass) => glass.id));
      const kept = on.filter((id) => known.has(id));
      if (state.on !== null && (kept.length > 0 || on.length === 0)) return { ...state, on: kept };
      // A kit not met before: one strong solid glass goes on, so that the bench answers at once.
      const solid = move.glass.filter((glass) => glass.kind === "solid");
      const distance = (glass: Glass) => Math.abs(glass.stops - FIRST_STOPS);
      const first = solid.toSorted((one, other) => distance(one) - distance(other))[0];
      return { ...state, on: first ? [first.id] : [], inReading: [] };
    }
  }
}

function putOn(state: Bench, id: string): Bench {
  const on = state.on ?? [];
  if (on.includes(id) || on.length >= MOST_GLASSES) return state;
  return { ...state, on: [...on, id] };
}

function takeOff(state: Bench, id: string): Bench {
  return {
    ...state,
    on: (state.on ?? []).filter((other) => other !== id),
    inReading: state.inReading.filter((other) => other !== id),
  };
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
  step: Step;
  dialLimit: number;
  focalMm: number | undefined;
  /** Settings that the body leaves no choice in. */
  fixedAperture: string | null;
  fixedIso: string | null;
  /** How the light moves, where an outing says so. */
  light: NonNullable<ExposureQuestion["light"]> | null;
}

export function lay(state: Bench, kit: KitItem[]): Laid {
  const body = chosen(kit, "body", state.bodyId);
  const lens = chosen(kit, "lens", state.lensId);
  const items = itemsOf(kit, "glass");
  const bag = items.map((item) => turnedTo(glassOf(item), state.turned));
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
    step: (body?.facts.step as Step | undefined) ?? "third",
    dialLimit: body?.facts.dial_limit_s ?? 30,
    focalMm: lens && Math.min(Math.max(state.focalMm ?? 0, lens.facts.focal_min_mm), lens.facts.focal_max_mm),
    fixedAperture: fixed == null ? null : String(fixed),
    fixedIso: film ? String(film.facts.iso) : null,
    light: null,
  };
}

function turnedTo(glass: Glass, turned: Record<string, number>): Glass {
  const stops = turned[glass.id];
  if (glass.kind !== "variable" || stops === undefined) return glass;
  return { ...glass, stops: Math.min(Math.max(stops, glass.low), glass.high), offset: 0 };
}

export function settingsOf({ bench: state, fixedAperture, fixedIso }: Laid): { aperture: string; iso: string } {
  return {
    aperture: fixedAperture ?? state.shotAperture ?? state.aperture,
    iso: fixedIso ?? state.shotIso ?? state.iso,
  };
}

/** The question the bench asks; `change` asks "what if" without touching the bench. */
export function questionOf(laid: Laid, change: Partial<Bench> = {}): ExposureQuestion {
  const asked = { ...laid.bench, ...change };
  return {
    reading: readingOf(laid, change),
    stack: stackAsked(laid, asked.inReading),
    settings: settingsOf({ ...laid, bench: asked }),
    scale: asked.scale,
    dial_limit: laid.dialLimit,
    film: filmOf(laid),
    light: laid.light,
  };
}

/** The film's law as a question carries it. */
export function filmOf(laid: Laid): NonNullable<ExposureQuestion["film"]> | null {
  return laid.film?.law ?? null;
}

export function readingOf(laid: Laid, change: Partial<Bench> = {}): ExposureQuestion["reading"] {
  const asked = { ...laid.bench, ...change };
  return asked.meter === "hand"
    ? { ev100: asked.ev100, step: laid.step }
    : { shutter: asked.shutter, aperture: asked.aperture, iso: asked.iso, step: laid.step };
}

function stackAsked(laid: Laid, inReading: string[]): NonNullable<ExposureQuestion["stack"]> {
  return laid.stack.map((glass) => ({
    stops: glass.stops,
    // The core takes a spread only beside an offset; a range that was never measured has none.
    offset: glass.offset ?? (glass.low === glass.high ? null : 0),
    offset_sd: glass.offset_sd,
    in_reading: inReading.includes(glass.id),
  }));
}

/** The question behind a floating pin; null while the time floats or nothing is held. */
export function steerOf(laid: Laid): SteerQuestion | null {
  const { floating, targetSeconds, inReading } = laid.bench;
  if (floating === "time" || targetSeconds === null) return null;
  const asked = questionOf(laid);
  return {
    float: floating,
    reading: asked.reading,
    stops: 0,
    stack: floating === "stack" ? [] : stackAsked(laid, inReading),
    settings: asked.settings,
    target_seconds: targetSeconds,
    dial_limit: laid.dialLimit,
    film: asked.film ?? null,
  };
}

const KEPT_UNDER = "jackstaff.bench.2";

export function kept(): Bench | null {
  try {
    const held = JSON.parse(localStorage.getItem(KEPT_UNDER) ?? "null") as Partial<Bench> | null;
    // Parts added since it was kept take their first value.
    return held && { ...START, ...held };
  } catch {
    return null;
  }
}

export function keep(state: Bench): void {
  localStorage.setItem(KEPT_UNDER, JSON.stringify(state));
}

const START: Bench = {
  meter: "camera",
  shutter: "1/40",
  aperture: "9",
  iso: "64",
  ev100: 12,
  meteredAt: null,
  shotAperture: null,
  shotIso: null,
  scale: "exact",
  on: null,
  inReading: [],
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
  skySeen: null,
};

export function fromStarter({ reading }: Pick<Schemas["StarterAnswer"], "reading">): Bench {
  return { ...START, ...reading };
}
