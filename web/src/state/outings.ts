import { useMemo, useSyncExternalStore } from "react";
import * as v from "valibot";
import type { Schemas } from "../api/client";
import { instantOf, isZone } from "../words/zone";
import { remember, useHabits } from "./habits";
import { useSession } from "./session";
import { drawer, store } from "./store";

/** A plan for a place and a day. It lives in this browser and, for an account, on the server too. */
export type Outing = Schemas["OutingDoc"];

const UNTOUCHED = "2000-01-01T00:00:00Z";

const FIRST: Outing = {
  id: "5b1de6a0-7f0c-4a34-9c58-2f1d2b7f0a01",
  name: "Vardsund mole, first light",
  latitude: 58.05,
  longitude: 6.8,
  zone: "Europe/Oslo",
  date: "2027-04-17",
  arrive: "04:45",
  turn_back: "08:00",
  sky: "thin",
  scene: "sky_lit",
  ridge: null,
  readings: [],
  waters: [
    { time: "03:10", height_m: 0.3, source: "own" },
    { time: "09:25", height_m: 1.9, source: "own" },
  ],
  floods_at_m: 1.7,
  walk_minutes: 15,
  margin_minutes: 15,
  weather: { source: "own" },
  hazards: ["tide", "swell"],
  packed: [],
  archived: false,
  changed_at: UNTOUCHED,
  skies: [],
  crossings: [],
};

const clock = v.pipe(v.string(), v.regex(/^([01]\d|2[0-3]):[0-5]\d$/));
const SHAPE = v.looseObject({
  id: v.string(),
  name: v.string(),
  latitude: v.number(),
  longitude: v.number(),
  zone: v.pipe(v.string(), v.check(isZone)),
  date: v.pipe(v.string(), v.isoDate()),
  arrive: clock,
  turn_back: clock,
  sky: v.picklist(["clear", "thin", "overcast", "heavy"]),
  scene: v.picklist(["sky_lit", "sun_lit", "shade", "lamp_lit"]),
  readings: v.array(v.object({ at: v.string(), ev100: v.number() })),
  waters: v.array(v.looseObject({ time: clock, height_m: v.number() })),
  weather: v.looseObject({}),
  hazards: v.array(v.string()),
  packed: v.array(v.string()),
  archived: v.boolean(),
  changed_at: v.string(),
});

const plans = drawer<Outing>({
  name: "outing",
  version: 1,
  // What was planned before a sky could change has one sky, before a flood could be watched none.
  check: (content) => (v.is(SHAPE, content) ? ({ skies: [], crossings: [], ...content } as unknown as Outing) : null),
  wire: (outing) => ({ ...outing }),
  sort: (outing) => new Date(span(outing)[0]).toISOString(),
});

/** Whether somebody has written it; the sample is nobody's. */
export function isTouched(outing: Outing): boolean {
  return Date.parse(outing.changed_at) > Date.parse(UNTOUCHED);
}

/** The outings of whoever is here. */
export function useOutings() {
  const own = plans.use();
  const session = useSession();
  const { outing: chosen } = useHabits();
  const removed = useSyncExternalStore(store.subscribe, () => plans.removed(FIRST.id));
  const guest = session.account === null;
  const { practice } = session;
  return useMemo(() => {
    const sample =
      own.length === 0 || (guest && !practice && !removed && !own.some((outing) => outing.id === FIRST.id));
    const outings = sample ? [FIRST, ...own] : [...own];
    const current = outings.find((outing) => outing.id === chosen) ?? latest(outings) ?? FIRST;
    return { outings, current, choose, keep, forget };
  }, [own, guest, practice, removed, chosen]);
}

/** What was planned last is what one wants to see first. */
function latest(outings: Outing[]): Outing | undefined {
  return outings.toSorted((a, b) => Date.parse(b.changed_at) - Date.parse(a.changed_at))[0];
}

export function choose(id: string): void {
  remember({ outing: id });
}

/** Keep an outing, and look at it from now on. */
export function keep(outing: Outing): void {
  write(outing);
  remember({ outing: outing.id });
}

function write(outing: Outing): void {
  void plans.set(outing.id, { ...outing, changed_at: new Date().toISOString() });
}

/** An outing as it stands now, whatever was changed of it since it was shown so. */
export function standing(outing: Outing): Outing {
  return plans.get(outing.id) ?? outing;
}

/**
 * Change what differs in `next` from what was shown, on top of what stands now. Gives the way back: these parts alone
 * are as they were, unless the outing was removed since.
 */
export function change(shown: Outing, next: Partial<Outing>): () => void {
  const before = standing(shown);
  const names = (Object.keys(next) as (keyof Outing)[]).filter((name) => next[name] !== shown[name]);
  const put = (from: Partial<Outing>) =>
    write({ ...standing(shown), ...Object.fromEntries(names.map((name) => [name, from[name]])) });
  put(next);
  return () => {
    if (!isRemoved(shown)) put(before);
  };
}

export function isRemoved(outing: Outing): boolean {
  return plans.removed(outing.id);
}

export function forget(outing: Outing): void {
  void plans.remove(outing.id);
  remember({ outing: null });
}

/** The instants between which the outing plans [ms]; past midnight when turning back is earlier than arriving. */
export function span(outing: Outing): [number, number] {
  const from = instantOf(outing.date, outing.arrive, outing.zone);
  const to = instantOf(outing.date, outing.turn_back, outing.zone);
  return [from, to > from ? to : to + DAY];
}

/** The instant a clock time of the place means: the one nearest to the middle of the outing. */
export function instantNear(outing: Outing, time: string): number {
  const [from, to] = span(outing);
  const middle = (from + to) / 2;
  const at = instantOf(outing.date, time, outing.zone);
  return [at - DAY, at, at + DAY].reduce((best, day) =>
    Math.abs(day - middle) < Math.abs(best - middle) ? day : best,
  );
}

/** The entered high and low waters as instants. */
export function watersAt(outing: Outing): Schemas["WaterInput"][] {
  return outing.waters.map(({ time, height_m, kind }) => ({
    at: new Date(instantNear(outing, time)).toISOString(),
    height_m,
    ...(kind != null && { kind }),
  }));
}

const DAY = 86_400_000;

/** Whether the outing is going on, or about to. */
export function isLive(outing: Outing, now: number): boolean {
  const [from, to] = span(outing);
  return now >= from - 2 * 3_600_000 && now <= to + 3_600_000;
}

/**
 * The outing that goes on: the one that is looked at where it does, else the one changed last of those that do. Whoever
 * plans tomorrow's at the water stands in today's.
 */
export function goingOn(outings: Outing[], current: Outing, now: number): Outing | undefined {
  return isLive(current, now) ? current : latest(outings.filter((outing) => !outing.archived && isLive(outing, now)));
}

/** An outing's place, as the questions about its light carry it. */
export function placeOf(
  outing: Outing,
): Pick<Schemas["LightInput"], "latitude" | "longitude" | "sky" | "scene" | "readings" | "ridge" | "skies"> {
  const { latitude, longitude, sky, scene, readings, ridge } = outing;
  const skies = skiesOf(outing).map((change) => ({ at: new Date(change.from).toISOString(), sky: change.sky }));
  return { latitude, longitude, sky, scene, readings, ridge, skies };
}

/** As many changes of sky as a plan takes. */
export const MOST_SKIES = 12;

/** When the sky is expected to change, and to what, in order of time [ms]. */
export function skiesOf(outing: Outing): { from: number; sky: Outing["sky"] }[] {
  return outing.skies
    .map(({ time, sky }) => ({ from: instantNear(outing, time), sky }))
    .toSorted((a, b) => a.from - b.from);
}

/** The sky that is expected at an instant. */
export function skyAt(outing: Outing, ms: number): Outing["sky"] {
  return skiesOf(outing).findLast(({ from }) => from <= ms)?.sky ?? outing.sky;
}
