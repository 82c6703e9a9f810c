import { describe, expect, it } from "vitest";
import { instantOf, isZone, wallTime } from "./zone";

describe("a zone's clock", () => {
  it.each([
    ["2027-04-17", "06:15", "Europe/Oslo", "2027-04-17T04:15:00.000Z"],
    ["2027-01-17", "06:15", "Europe/Oslo", "2027-01-17T05:15:00.000Z"],
    // The night the clocks go forward and the night they go back.
    ["2027-03-28", "01:30", "Europe/Oslo", "2027-03-28T00:30:00.000Z"],
    ["2027-03-28", "03:30", "Europe/Oslo", "2027-03-28T01:30:00.000Z"],
    ["2027-10-31", "04:00", "Europe/Oslo", "2027-10-31T03:00:00.000Z"],
    ["2027-06-21", "00:10", "Pacific/Auckland", "2027-06-20T12:10:00.000Z"],
  ])("%s %s in %s is %s", (date, time, zone, instant) => {
    expect(new Date(instantOf(date, time, zone)).toISOString()).toBe(instant);
    expect(wallTime(instantOf(date, time, zone), zone)).toBe(time);
  });

  it("knows which zones there are", () => {
    expect([isZone("Europe/Oslo"), isZone("Vardsund/Mole")]).toEqual([true, false]);
  });
});
