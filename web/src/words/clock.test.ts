import { afterEach, describe, expect, it } from "vitest";
import { clockIn, clockOf, countHours, dateOf, placeClock, readClock, readDate, withClocks } from "./clock";
import { ITS_OWN } from "./zone";

afterEach(() => countHours(null));

const NOON = Date.parse("2027-04-17T12:05:09Z");

describe("one choice of hours", () => {
  it.each([
    [24, "05:05", "17:05", "00:30", "12:30"],
    [12, "5:05 am", "5:05 pm", "12:30 am", "12:30 pm"],
  ] as [12 | 24, ...string[]][])("of %i is %s, %s, %s and %s", (hours, ...shown) => {
    countHours(hours);
    const kept = ["05:05", "17:05", "00:30", "12:30"];
    expect(kept.map(clockOf)).toEqual(shown);
    // What is shown is taken when it is typed.
    expect(shown.map(readClock)).toEqual(kept);
    expect(withClocks(`from ${kept[0]} to ${kept[1]}.`)).toBe(`from ${shown[0]} to ${shown[1]}.`);
  });

  it.each([
    [24, "1705", "17:05"],
    [24, "7.05", "07:05"],
    [24, "5:05pm", "17:05"],
    [24, "123", null],
    [12, "505 pm", null],
    [24, "24:00", null],
    [24, "17:6", null],
    [24, "1", null],
    [12, "17:05", "17:05"],
    [12, "0:05", "00:05"],
    [12, "5:05", null],
    [12, "13:05 pm", null],
    [12, "12:05 a.m.", "00:05"],
  ] as const)("of %i takes %s for %s", (hours, typed, kept) => {
    countHours(hours);
    expect(readClock(typed)).toBe(kept);
  });
});

describe("a time of a place", () => {
  it("names its zone only where its clock is another one", () => {
    countHours(24);
    expect(placeClock(NOON, "Etc/GMT-9", "seconds")).toBe("21:05:09 GMT+9");
    expect(placeClock(NOON, ITS_OWN)).toBe(clockIn(NOON, ITS_OWN));
  });
});

describe("a date", () => {
  it.each([
    ["2027-04-17", "2027-04-17"],
    ["17 Apr 2027", "2027-04-17"],
    ["1 september 2027", "2027-09-01"],
    ["31 Apr 2027", null],
    ["2027-02-29", null],
    ["17 Apr", null],
    ["04/17/2027", null],
  ] as const)("%s is kept as %s", (typed, kept) => {
    expect(readDate(typed)).toBe(kept);
    if (kept !== null) expect(readDate(dateOf(kept))).toBe(kept);
  });
});
