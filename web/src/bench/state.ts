import type { Schemas } from "../api/client";

/** What stands on the bench: the reading, what is on the lens, and how the body counts. */
export type Glass = Schemas["BagGlass"];
export type ExposureQuestion = Schemas["ExposureAsked"];
export type Step = Schemas["Step"];
export type Scale = Schemas["Counting"];

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
  step: Step;
  dialLimit: number;
  scale: Scale;
  bag: Glass[];
  /** Ids in order from the lens outwards. */
  on: string[];
  inReading: string[];
}

export type Move =
  | { do: "set"; change: Partial<Bench> }
  | { do: "toggle"; id: string }
  | { do: "toggleInReading"; id: string }
  | { do: "bare" }
  | { do: "add"; glass: Glass }
  | { do: "remove"; id: string };

export const MOST_GLASSES = 8;

/** What a change of the reading touches: it was metered now. */
const READING: (keyof Bench)[] = ["shutter", "aperture", "iso", "ev100", "meter"];

export function bench(state: Bench, move: Move, now: Date): Bench {
  switch (move.do) {
    case "set": {
      const metered = READING.some((key) => key in move.change);
      return { ...state, ...(metered ? { meteredAt: now.toISOString() } : {}), ...move.change };
    }
    case "toggle":
      return state.on.includes(move.id) ? takeOff(state, move.id) : putOn(state, move.id);
    case "toggleInReading": {
      if (state.inReading.includes(move.id)) {
        return { ...state, inReading: state.inReading.filter((id) => id !== move.id) };
      }
      const on = putOn(state, move.id);
      return on.on.includes(move.id) ? { ...on, inReading: [...on.inReading, move.id] } : state;
    }
    case "bare":
      return { ...state, on: [], inReading: [] };
    case "add": {
      const added = { ...state, bag: [...state.bag, move.glass] };
      return putOn(added, move.glass.id);
    }
    case "remove":
      return { ...takeOff(state, move.id), bag: state.bag.filter((glass) => glass.id !== move.id) };
  }
}

function putOn(state: Bench, id: string): Bench {
  if (state.on.includes(id) || state.on.length >= MOST_GLASSES) return state;
  return { ...state, on: [...state.on, id] };
}

function takeOff(state: Bench, id: string): Bench {
  return {
    ...state,
    on: state.on.filter((other) => other !== id),
    inReading: state.inReading.filter((other) => other !== id),
  };
}

export function stackOf(state: Bench): Glass[] {
  return state.on.flatMap((id) => state.bag.filter((glass) => glass.id === id));
}

/** The question the bench asks; `change` asks "what if" without touching the bench. */
export function questionOf(state: Bench, change: Partial<Bench> = {}): ExposureQuestion {
  const asked = { ...state, ...change };
  const reading: ExposureQuestion["reading"] =
    asked.meter === "hand"
      ? { ev100: asked.ev100, step: asked.step }
      : { shutter: asked.shutter, aperture: asked.aperture, iso: asked.iso, step: asked.step };
  return {
    reading,
    stack: stackOf(asked).map((glass) => ({
      stops: glass.stops,
      offset: glass.offset,
      offset_sd: glass.offset_sd,
      in_reading: asked.inReading.includes(glass.id),
    })),
    settings: { aperture: asked.shotAperture ?? asked.aperture, iso: asked.shotIso ?? asked.iso },
    scale: asked.scale,
    dial_limit: asked.dialLimit,
  };
}

const KEPT_UNDER = "jackstaff.bench.1";

export function kept(): Bench | null {
  try {
    return JSON.parse(localStorage.getItem(KEPT_UNDER) ?? "null") as Bench | null;
  } catch {
    return null;
  }
}

export function keep(state: Bench): void {
  localStorage.setItem(KEPT_UNDER, JSON.stringify(state));
}

export function fromStarter(starter: Schemas["StarterAnswer"]): Bench {
  return {
    meter: "camera",
    shutter: starter.reading.shutter,
    aperture: starter.reading.aperture,
    iso: starter.reading.iso,
    ev100: 12,
    meteredAt: null,
    shotAperture: null,
    shotIso: null,
    step: "third",
    dialLimit: 30,
    scale: "exact",
    bag: starter.glass,
    on: starter.on,
    inReading: [],
  };
}
