import type { Schemas } from "../api/client";
import { dateIn, wallTime } from "../words/zone";
import { type Outing, watersAt } from "./outings";

/** What a new outing is made of: a place, a stretch of a day, and what the place brings along. */

export interface Spot {
  name: string;
  latitude: number;
  longitude: number;
  zone: string;
}

/** When to be there [ms]. */
export interface Stretch {
  from: number;
  to: number;
}

export type Day = Schemas["DayAnswer"];
export type Matter = Schemas["Matter"];
export type WhenName = "dawn" | "dusk" | "blue" | "low";

/** Two outings within a few hundred metres are at one place. */
const NEAR_DEG = 0.005;
const MINUTE = 60_000;
const TO_FIVE = 5 * MINUTE;
const DAY = 24 * 60 * MINUTE;
/** As many as the question takes. */
const MOST_WATERS = 200;
const MOST_CROSSINGS = 20;

export function samePlace(first: Pick<Spot, "latitude" | "longitude">, other: typeof first): boolean {
  return (
    Math.abs(first.latitude - other.latitude) < NEAR_DEG && Math.abs(first.longitude - other.longitude) < NEAR_DEG * 2
  );
}

/** The places of all outings, each once, the one used last first. */
export function placesUsed(outings: readonly Outing[]): Outing[] {
  const latest = outings.toSorted((a, b) => Date.parse(b.changed_at) - Date.parse(a.changed_at));
  return latest.filter((outing, at) => latest.findIndex((other) => samePlace(outing, other)) === at);
}

/** What is entered of the water at a place around some days; each instant once, however many outings have it. */
export function watersAround(same: readonly Outing[], first: string, days: number): Schemas["WaterInput"][] {
  const from = Date.parse(`${first}T00:00:00Z`) - DAY;
  const found = same.flatMap(watersAt).filter(({ at }) => {
    const ms = Date.parse(at);
    return ms >= from && ms <= from + (days + 2) * DAY;
  });
  return [...new Map(found.map((water) => [water.at, water])).values()].slice(0, MOST_WATERS);
}

/** What is entered for a day at a place, by whichever of its outings. */
export function watersOn(same: readonly Outing[], date: string): Outing["waters"] {
  return same.find((outing) => outing.date === date && outing.waters.length > 0)?.waters ?? [];
}

/** The floods that were watched at an outing's place, each once, whichever of its outings keeps them. */
export function crossingsAt(outing: Outing, outings: readonly Outing[]): Outing["crossings"] {
  const found = [outing, ...outings.filter((other) => other.id !== outing.id && samePlace(other, outing))].flatMap(
    ({ crossings }) => crossings,
  );
  const once = [...new Map(found.map((crossing) => [crossing.at, crossing])).values()];
  return once.toSorted((a, b) => (a.at < b.at ? 1 : -1)).slice(0, MOST_CROSSINGS);
}

/** The outing on another day: what belongs to the day it was on is left there. */
export function moved(outing: Outing, to: Partial<Outing>, waters: Outing["waters"]): Outing {
  const stays = to.date === undefined || to.date === outing.date;
  return { ...outing, ...to, ...(!stays && { waters, readings: [], skies: [], weather: { source: "own" as const } }) };
}

/** An outing of a day; what belongs to the place (hazards, the way back, a ridge) comes along, what belongs to a day does not. */
export function planned(spot: Spot, stretch: Stretch, before: Outing | undefined): Outing {
  return {
    id: crypto.randomUUID(),
    name: spot.name,
    latitude: spot.latitude,
    longitude: spot.longitude,
    zone: spot.zone,
    ...at(stretch, spot.zone),
    sky: "clear",
    scene: before?.scene ?? "sky_lit",
    ridge: before?.ridge ?? null,
    readings: [],
    waters: [],
    floods_at_m: before?.floods_at_m ?? null,
    walk_minutes: before?.walk_minutes ?? 15,
    margin_minutes: before?.margin_minutes ?? 15,
    weather: { source: "own" },
    hazards: before?.hazards ?? [],
    packed: [],
    archived: false,
    changed_at: new Date().toISOString(),
    skies: [],
    crossings: before?.crossings ?? [],
  };
}

/** Date and clock times of a stretch by the place's clock, on five minutes. */
export function at({ from, to }: Stretch, zone: string): Pick<Outing, "date" | "arrive" | "turn_back"> {
  const start = Math.floor(from / TO_FIVE) * TO_FIVE;
  return {
    date: dateIn(start, zone),
    arrive: wallTime(start, zone),
    turn_back: wallTime(Math.ceil(to / TO_FIVE) * TO_FIVE, zone),
  };
}

function instant(day: Day, name: string): number | undefined {
  const found = day.events.find((event) => event.name === name)?.at;
  return found == null ? undefined : Date.parse(found);
}

/** From the first light to an hour and a half of sun. */
function dawnOf(day: Day): Stretch | undefined {
  const sunrise = instant(day, "sunrise");
  if (sunrise === undefined) return undefined;
  return { from: instant(day, "nautical_dawn") ?? sunrise - 90 * MINUTE, to: sunrise + 90 * MINUTE };
}

/** From an hour and a half of sun to the last light. */
function duskOf(day: Day): Stretch | undefined {
  const sunset = instant(day, "sunset");
  if (sunset === undefined) return undefined;
  return { from: sunset - 90 * MINUTE, to: instant(day, "nautical_dusk") ?? sunset + 90 * MINUTE };
}

/** From the first light to sunrise, and from sunset to the last light. */
function blueOf(day: Day): Stretch[] {
  const [sunrise, sunset] = [instant(day, "sunrise"), instant(day, "sunset")];
  const [dawn, dusk] = [instant(day, "nautical_dawn"), instant(day, "nautical_dusk")];
  return [
    ...(dawn !== undefined && sunrise !== undefined ? [{ from: dawn, to: sunrise }] : []),
    ...(dusk !== undefined && sunset !== undefined ? [{ from: sunset, to: dusk }] : []),
  ];
}

/** Around a low water that comes within two hours of sunrise or sunset. */
function lowOf(day: Day): Stretch[] {
  const suns = [instant(day, "sunrise"), instant(day, "sunset")].filter((sun) => sun !== undefined);
  return day.waters
    .filter((turn) => !turn.high && suns.some((sun) => Math.abs(Date.parse(turn.at) - sun) <= 120 * MINUTE))
    .map((turn) => ({ from: Date.parse(turn.at) - 90 * MINUTE, to: Date.parse(turn.at) + 90 * MINUTE }));
}

/** The next stretch of each name that has not ended. */
export function nextOf(days: readonly Day[], now: number): Record<WhenName, Stretch | undefined> {
  const ordered = days.toSorted((a, b) => Date.parse(a.begins) - Date.parse(b.begins));
  const first = (of: (day: Day) => (Stretch | undefined)[]) =>
    ordered.flatMap(of).find((stretch) => stretch !== undefined && stretch.to > now);
  return {
    dawn: first((day) => [dawnOf(day)]),
    dusk: first((day) => [duskOf(day)]),
    blue: first(blueOf),
    low: first(lowOf),
  };
}

/** When to be there on a day for what one is after. */
export function stretchFor(day: Day, matter: Matter): Stretch | undefined {
  switch (matter) {
    case "low_at_sunrise":
    case "look_at_sunrise":
      return dawnOf(day);
    case "low_at_sunset":
    case "look_at_sunset":
      return duskOf(day);
    case "date":
    case "moonlight":
    case "dark":
      return undefined;
  }
}
