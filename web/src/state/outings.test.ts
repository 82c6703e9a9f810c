// @vitest-environment happy-dom
import { expect, test } from "vitest";
import {
  change,
  forget,
  goingOn,
  instantNear,
  isLive,
  isRemoved,
  keep,
  type Outing,
  placeOf,
  skyAt,
  span,
  standing,
} from "./outings";
import { minutesText, rateText } from "../words/rate";

function outing(more: Partial<Outing>): Outing {
  return {
    zone: "Europe/Oslo",
    date: "2027-04-17",
    arrive: "04:45",
    turn_back: "08:00",
    latitude: 58.05,
    longitude: 6.8,
    sky: "clear",
    scene: "sky_lit",
    readings: [],
    ridge: null,
    skies: [],
    ...more,
  } as Outing;
}

const iso = (instant: number) => new Date(instant).toISOString();

test.each([
  ["a morning", {}, "2027-04-17T02:45:00.000Z", "2027-04-17T06:00:00.000Z"],
  [
    "an evening past midnight",
    { arrive: "22:00", turn_back: "01:30" },
    "2027-04-17T20:00:00.000Z",
    "2027-04-17T23:30:00.000Z",
  ],
  [
    "the day clocks go forward",
    { date: "2027-03-28", arrive: "01:30", turn_back: "04:00" },
    "2027-03-28T00:30:00.000Z",
    "2027-03-28T02:00:00.000Z",
  ],
  [
    "the day clocks go back",
    { date: "2027-10-31", arrive: "01:30", turn_back: "04:00" },
    "2027-10-30T23:30:00.000Z",
    "2027-10-31T03:00:00.000Z",
  ],
  [
    "the other side of the world",
    { zone: "Etc/GMT-12", arrive: "05:00", turn_back: "08:00" },
    "2027-04-16T17:00:00.000Z",
    "2027-04-16T20:00:00.000Z",
  ],
] as const)("%s begins and ends", (_, change, from, to) => {
  expect(span(outing(change)).map(iso)).toEqual([from, to]);
});

test.each([
  ["03:10", {}, "2027-04-17T01:10:00.000Z"],
  ["21:40", {}, "2027-04-16T19:40:00.000Z"],
  ["03:10", { arrive: "22:00", turn_back: "01:30" }, "2027-04-18T01:10:00.000Z"],
  ["17:00", { arrive: "22:00", turn_back: "01:30" }, "2027-04-17T15:00:00.000Z"],
] as const)("water at %s is the one nearest to the outing", (time, change, at) => {
  expect(iso(instantNear(outing(change), time))).toBe(at);
});

test.each([
  ["2027-04-17T00:30:00Z", false],
  ["2027-04-17T00:50:00Z", true],
  ["2027-04-17T06:50:00Z", true],
  ["2027-04-17T07:10:00Z", false],
])("at %s it is live: %s", (at, live) => {
  expect(isLive(outing({}), Date.parse(at))).toBe(live);
});

test("what is asked about the light is the place and what was read there", () => {
  const ridge = { height_m: 180, distance_m: 1100 };
  const asked = placeOf(outing({ ridge, readings: [{ at: "2027-04-17T03:20:00Z", ev100: -3.8 }] }));
  expect(Object.keys(asked).toSorted()).toEqual([
    "latitude",
    "longitude",
    "readings",
    "ridge",
    "scene",
    "skies",
    "sky",
  ]);
  expect(asked.ridge).toEqual(ridge);
});

test("a sky is the one that was expected last, whatever order they were said in", () => {
  const plan = outing({
    arrive: "22:00",
    turn_back: "03:00",
    skies: [
      { time: "01:30", sky: "heavy" },
      { time: "23:00", sky: "thin" },
    ],
  });
  const at = (utc: string) => skyAt(plan, Date.parse(utc));
  expect(
    ["2027-04-17T20:59:00Z", "2027-04-17T21:00:00Z", "2027-04-17T23:29:00Z", "2027-04-17T23:30:00Z"].map(at),
  ).toEqual(["clear", "thin", "thin", "heavy"]);
  expect(placeOf(plan).skies.map(({ at: from }) => from)).toEqual([
    "2027-04-17T21:00:00.000Z",
    "2027-04-17T23:30:00.000Z",
  ]);
});

test.each([
  [0.003, "steady"],
  [1 / 14, "rising 1 stop in 14 min"],
  [-1 / 6, "falling 1 stop in 6 min"],
  [-1 / 100, "falling 1 stop in 1 h 40 min"],
  [2, "rising 1 stop in 1 min"],
])("a rate of %d stops a minute is said", (rate, said) => {
  expect(rateText(rate)).toBe(said);
});

test.each([
  [1, "1 min"],
  [89, "89 min"],
  [120, "2 h"],
  [155, "2 h 35 min"],
])("%i minutes are said", (minutes, said) => {
  expect(minutesText(minutes)).toBe(said);
});

test("a part is changed on top of what stands, and taken back without what was changed since", () => {
  const shown = outing({ id: "a", name: "Vardsund mole", packed: [] });
  keep(shown);
  keep({ ...shown, packed: ["lamp"] });
  // Asked for while the lamp was packed: an answer that comes late knows nothing of it.
  const undo = change(shown, { ...shown, arrive: "05:00" });
  expect(standing(shown)).toMatchObject({ arrive: "05:00", packed: ["lamp"] });
  change(standing(shown), { name: "Grey Tarn" });
  undo();
  expect(standing(shown)).toMatchObject({ name: "Grey Tarn", arrive: "04:45", packed: ["lamp"] });
});

test("an outing that was removed since is not brought back by taking a change of it back", () => {
  const shown = outing({ id: "b", name: "Vardsund mole" });
  keep(shown);
  const undo = change(shown, { arrive: "05:00" });
  forget(shown);
  undo();
  expect(isRemoved(shown)).toBe(true);
});

test("what goes on is the outing that is looked at, or the one where somebody stands while planning another", () => {
  const at = Date.parse("2027-04-17T04:00:00Z");
  const today = outing({ id: "today", archived: false, changed_at: "2027-04-01T00:00:00Z" });
  const copied = outing({ id: "copied", archived: false, changed_at: "2027-04-16T00:00:00Z" });
  const tomorrow = outing({ id: "tomorrow", date: "2027-04-18", archived: false, changed_at: "2027-04-17T03:00:00Z" });
  const put = outing({ id: "put", archived: true, changed_at: "2027-04-17T03:30:00Z" });
  const all = [tomorrow, today, copied, put];
  expect([today, tomorrow].map((current) => goingOn(all, current, at)?.id)).toEqual(["today", "copied"]);
  expect(goingOn([tomorrow, put], tomorrow, at)).toBeUndefined();
});
