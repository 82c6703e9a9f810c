import type { Schemas } from "../api/client";

/** What is in front of the camera, and which looks are wished for. */
export type Kind = "sea" | "river" | "cloud" | "leaves" | "people" | "crowd" | "lamps" | "stars" | "tide" | "spin";
export type Window = Schemas["WindowAnswer"];
export type Want = Schemas["WantAsked"];

export interface SceneSubject {
  id: string;
  kind: Kind;
  facts: Record<string, number | string>;
}

export interface Scene {
  subjects: SceneSubject[];
  wants: Want[];
  elevationDeg: number;
  bearingDeg: number;
}

/** A fact one is asked for: a number, or one of a few words. */
export interface SceneFact {
  name: string;
  choices?: string[];
}

const number = (name: string): SceneFact => ({ name });

export const FACTS: Record<Kind, SceneFact[]> = {
  sea: [number("height_m"), number("period_s")],
  river: [number("texture_m"), number("flow_m_s")],
  cloud: [
    { name: "class", choices: ["low", "middle", "high"] },
    number("height_m"),
    number("wind_m_s"),
    number("wind_from_deg"),
  ],
  leaves: [{ name: "class", choices: ["calm", "light", "breeze", "fresh"] }, number("distance_m")],
  people: [number("speed_m_s"), number("across"), number("standing"), number("stay_s")],
  crowd: [number("rate_per_s"), number("speed_m_s")],
  lamps: [number("size_m"), number("speed_m_s")],
  stars: [number("declination_deg")],
  tide: [number("range_m"), number("hours_from_low"), number("hours_low_to_high")],
  spin: [number("period_s")],
};

/** A plausible beginning for each kind; what is not here the core fills in or asks for. */
export const BEGINNING: Record<Kind, Record<string, number | string>> = {
  sea: { height_m: 0.6 },
  river: { texture_m: 0.3, flow_m_s: 1 },
  cloud: { class: "low", wind_m_s: 6, wind_from_deg: 240 },
  leaves: { class: "light", distance_m: 4 },
  people: { standing: 0 },
  crowd: { rate_per_s: 0.3 },
  lamps: { size_m: 0.2, speed_m_s: 14 },
  stars: { declination_deg: 40 },
  tide: { range_m: 2, hours_from_low: 1 },
  spin: { period_s: 12 },
};

export const KINDS = Object.keys(FACTS) as Kind[];

/** Nothing is judged before somebody has said what is in the picture. */
export const FIRST_SCENE: Scene = { subjects: [], wants: [], elevationDeg: 8, bearingDeg: 300 };

/** The demo account's own: the mole, with a look chosen. */
export const DEMO_SCENE: Scene = {
  ...FIRST_SCENE,
  subjects: (["sea", "cloud", "people"] as const).map((kind) => ({ id: kind, kind, facts: BEGINNING[kind] })),
  wants: [{ kind: "sea", look: "mirror" }],
};

/** The scene with another subject, as such things usually are until somebody says more. */
export function withSubject(scene: Scene, kind: Kind): Scene {
  return { ...scene, subjects: [...scene.subjects, { id: crypto.randomUUID(), kind, facts: BEGINNING[kind] }] };
}

/** Wished or not: one look a kind; wishing it again takes the wish back. */
export function toggledWant(wants: Want[], want: Want): Want[] {
  const others = wants.filter((wanted) => wanted.kind !== want.kind);
  const had = wants.some((wanted) => wanted.kind === want.kind && wanted.look === want.look);
  return had ? others : [...others, want];
}

export function withoutSubject(scene: Scene, id: string): Scene {
  const subjects = scene.subjects.filter((subject) => subject.id !== id);
  const kinds = new Set<string>(subjects.map((subject) => subject.kind));
  return { ...scene, subjects, wants: scene.wants.filter((want) => kinds.has(want.kind)) };
}
