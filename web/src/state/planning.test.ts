// @vitest-environment happy-dom
import { expect, test } from "vitest";
import type { Outing } from "./outings";
import {
  at,
  type Day,
  moved,
  nextOf,
  placesUsed,
  planned,
  samePlace,
  stretchFor,
  watersAround,
  watersOn,
} from "./planning";

const ZONE = "Europe/Oslo";

function day(date: string, events: Record<string, string>, lows: string[] = []): Day {
  return {
    date,
    begins: `${date}T00:00:00Z`,
    ends: `${date}T23:59:59Z`,
    events: Object.entries(events).map(([name, clock]) => ({ name, at: `${date}T${clock}:00Z` })),
    begins_deg: -20,
    lit: 0.5,
    moon_up: [],
    dark: [],
    waters: lows.map((clock) => ({ at: `${date}T${clock}:00Z`, height_m: 0.3, high: false })),
    look: [],
    why: null,
  };
}

const SUN = { nautical_dawn: "02:37", sunrise: "04:17", sunset: "18:48", nautical_dusk: "20:27" };
const DAYS = [day("2027-04-18", SUN, ["05:10"]), day("2027-04-17", SUN, ["01:10"])];
const clock = (stretch: { from: number; to: number } | undefined) =>
  stretch && [new Date(stretch.from).toISOString().slice(8, 16), new Date(stretch.to).toISOString().slice(8, 16)];

test.each([
  ["2027-04-17T00:00:00Z", "dawn", ["17T02:37", "17T05:47"]],
  ["2027-04-17T05:00:00Z", "dawn", ["17T02:37", "17T05:47"]],
  ["2027-04-17T06:00:00Z", "dawn", ["18T02:37", "18T05:47"]],
  ["2027-04-17T06:00:00Z", "dusk", ["17T17:18", "17T20:27"]],
  ["2027-04-17T06:00:00Z", "blue", ["17T18:48", "17T20:27"]],
  // Over three hours before sunrise is no low water near it.
  ["2027-04-17T00:00:00Z", "low", ["18T03:40", "18T06:40"]],
] as const)("at %s the next %s has not ended yet", (now, name, expected) => {
  expect(clock(nextOf(DAYS, Date.parse(now))[name])).toEqual(expected);
});

test("where the sun does not rise there is no dawn to plan", () => {
  expect(nextOf([day("2027-12-20", { nautical_dawn: "08:00" })], 0)).toEqual({
    dawn: undefined,
    dusk: undefined,
    blue: undefined,
    low: undefined,
  });
});

test("a day for the sake of sunrise is planned around sunrise, one for the moon keeps its hours", () => {
  const [first] = DAYS as [Day, Day];
  expect(clock(stretchFor(first, "low_at_sunrise"))).toEqual(["18T02:37", "18T05:47"]);
  expect(clock(stretchFor(first, "look_at_sunset"))).toEqual(["18T17:18", "18T20:27"]);
  expect(stretchFor(first, "moonlight")).toBeUndefined();
});

const MOLE = { name: "The mole", latitude: 58.052, longitude: 6.798, zone: ZONE };
const OLD = {
  ...planned(MOLE, { from: 0, to: 1 }, undefined),
  hazards: ["tide"],
  floods_at_m: 1.2,
  readings: [{ at: "2027-04-17T04:00:00Z", ev100: 3 }],
  waters: [{ time: "03:10", height_m: 0.3, source: "own" as const }],
  changed_at: "2027-01-01T00:00:00Z",
} satisfies Outing;

test("what belongs to the place comes along, what belongs to a day does not", () => {
  const stretch = { from: Date.parse("2027-04-17T02:37:00Z"), to: Date.parse("2027-04-17T05:47:00Z") };
  const outing = planned(MOLE, stretch, OLD);
  expect(outing).toMatchObject({ hazards: ["tide"], floods_at_m: 1.2, readings: [], waters: [], packed: [] });
  expect([outing.date, outing.arrive, outing.turn_back]).toEqual(["2027-04-17", "04:35", "07:50"]);
  expect(outing.id).not.toBe(OLD.id);
  // Past midnight by the place's clock the date is that of the beginning.
  expect(at({ from: Date.parse("2027-04-17T21:50:00Z"), to: Date.parse("2027-04-17T23:30:00Z") }, ZONE)).toEqual({
    date: "2027-04-17",
    arrive: "23:50",
    turn_back: "01:30",
  });
});

test("a place is listed once, the one used last first", () => {
  const again = { ...OLD, id: "b", name: "The mole again", latitude: 58.0522, changed_at: "2027-02-01T00:00:00Z" };
  const tarn = { ...OLD, id: "c", name: "Grey Tarn", latitude: 58.3, changed_at: "2026-01-01T00:00:00Z" };
  expect(placesUsed([tarn, OLD, again]).map(({ name }) => name)).toEqual(["The mole again", "Grey Tarn"]);
  expect(samePlace(OLD, tarn)).toBe(false);
});

test("waters are those around the days, once, and go along with their own day alone", () => {
  const dated = {
    ...OLD,
    date: "2027-04-17",
    arrive: "04:45",
    turn_back: "08:00",
    weather: { source: "own", swell_m: 2 },
  };
  const same = [{ ...dated, id: "bare", waters: [] }, dated, { ...dated, id: "copy" }] as Outing[];
  expect(watersAround(same, "2027-04-12", 14)).toEqual([{ at: "2027-04-17T01:10:00.000Z", height_m: 0.3 }]);
  expect(watersAround(same, "2027-05-12", 14)).toEqual([]);
  // However many outings one has been to, the question stays one that is answered.
  const many = Array.from({ length: 300 }, (_, n) => ({
    ...OLD,
    date: "2027-04-17",
    waters: [{ ...OLD.waters[0], time: `0${n % 10}:${10 + (n % 50)}` }],
  }));
  expect(watersAround(many as unknown as Outing[], "2027-04-12", 14).length).toBeLessThanOrEqual(200);
  expect(watersOn(same, "2027-04-17")).toEqual(OLD.waters);
  expect(watersOn(same, "2027-04-18")).toEqual([]);
  const [, outing] = same as [Outing, Outing];
  expect(moved(outing, { date: "2027-04-18" }, [])).toMatchObject({
    date: "2027-04-18",
    waters: [],
    readings: [],
    weather: { source: "own" },
    hazards: ["tide"],
  });
  expect(moved(outing, { date: "2027-04-18" }, []).weather).not.toHaveProperty("swell_m");
  // On its own day everything stays.
  expect(moved(outing, { date: "2027-04-17", arrive: "04:35" }, [])).toEqual({ ...outing, arrive: "04:35" });
});
