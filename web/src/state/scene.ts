import type { Schemas } from "../api/client";

/** What is in front of the camera, and which looks are wished for. */
export type Kind =
  | "sea"
  | "river"
  | "cloud"
  | "leaves"
  | "people"
  | "crowd"
  | "still_person"
  | "vehicles"
  | "lamps"
  | "stars"
  | "tide"
  | "spin";
export type Want = Schemas["WantInput"];

export interface SceneSubject {
  id: string;
  kind: Kind;
  facts: Record<string, number | string>;
  /** Which of the facts somebody has said; the others are how such things usually are. */
  told?: string[] | undefined;
}

export interface Scene {
  subjects: SceneSubject[];
  wants: Want[];
  elevationDeg: number;
  bearingDeg: number;
  /** Whether somebody has said how the camera is tilted. */
  toldElevation?: boolean | undefined;
}

/** The numbers of each kind, for those who have them; the words for them are the core's. */
export const FACTS: Record<Kind, string[]> = {
  sea: ["height_m", "period_s"],
  river: ["texture_m", "flow_m_s"],
  cloud: ["height_m", "wind_m_s", "wind_from_deg"],
  leaves: ["amplitude_m", "period_s", "distance_m"],
  people: ["speed_m_s", "across", "standing", "stay_s"],
  crowd: ["rate_per_s", "speed_m_s"],
  still_person: ["distance_m"],
  vehicles: ["length_m", "speed_m_s", "standing", "stay_s"],
  lamps: ["size_m", "speed_m_s"],
  stars: ["declination_deg"],
  tide: ["range_m", "hours_from_low", "hours_low_to_high"],
  spin: ["period_s"],
};

/** A plausible beginning for each kind; what is not here the core fills in or asks for. */
export const BEGINNING: Record<Kind, Record<string, number | string>> = {
  sea: { height_m: 0.6 },
  river: { texture_m: 0.3, flow_m_s: 1 },
  cloud: { class: "low", wind_m_s: 6, wind_from_deg: 240 },
  leaves: { class: "light", distance_m: 4 },
  people: { standing: 0 },
  crowd: { rate_per_s: 0.3 },
  still_person: { pose: "sitting", distance_m: 6 },
  vehicles: { state: "moving" },
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

/** Whether a wish is this thing's: that of its kind, or its own where there are several of the kind. */
export function wishes({ kind, id }: Want, subject: Pick<SceneSubject, "kind" | "id">): boolean {
  return kind === subject.kind && (id == null || id === subject.id);
}

/** The wish for one thing: of its kind, so long as there is no other; two layers of cloud have one each. */
export function wishFor(scene: Scene, { kind, id }: Pick<SceneSubject, "kind" | "id">, look: string): Want {
  const several = scene.subjects.filter((subject) => subject.kind === kind).length > 1;
  return several ? { kind, look, id } : { kind, look };
}

/** Wished or not: one look a kind, or a thing; wishing it again takes the wish back. */
export function toggledWant(wants: Want[], want: Want): Want[] {
  const others = wants.filter(
    (wanted) => wanted.kind !== want.kind || (want.id != null && wanted.id != null && wanted.id !== want.id),
  );
  const had = wants.some(
    (wanted) => wanted.kind === want.kind && wanted.look === want.look && (wanted.id ?? null) === (want.id ?? null),
  );
  return had ? others : [...others, want];
}

/** The scene with more known of a subject; `instead` are facts that answered the same question before. */
export function withFacts(scene: Scene, id: string, facts: SceneSubject["facts"], instead: string[] = []): Scene {
  const withFactsOf = (subject: SceneSubject) => {
    const held = Object.entries(subject.facts).filter(([name]) => !instead.includes(name));
    const given = [...new Set([...(subject.told ?? []), ...Object.keys(facts)])];
    return { ...subject, facts: { ...Object.fromEntries(held), ...facts }, told: given };
  };
  return { ...scene, subjects: scene.subjects.map((subject) => (subject.id === id ? withFactsOf(subject) : subject)) };
}

/** A number somebody has said of the first thing of a kind; null where it is only how such things usually are. */
export function saidOf({ subjects }: Scene, kind: Kind, fact: string): number | null {
  const subject = subjects.find((each) => each.kind === kind);
  const value = subject?.told?.includes(fact) ? subject.facts[fact] : undefined;
  return typeof value === "number" ? value : null;
}

export function withoutSubject(scene: Scene, id: string): Scene {
  const subjects = scene.subjects.filter((subject) => subject.id !== id);
  return { ...scene, subjects, wants: scene.wants.filter((want) => subjects.some((left) => wishes(want, left))) };
}
