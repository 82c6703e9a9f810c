import { describe, expect, it } from "vitest";
import { around, nextTime, snapped, stepped } from "./stepping";

const mark = (label: string, exact: number) => ({ label, exact, printed: exact });
const SHUTTER = [
  mark("1/60", 1 / 64),
  mark("1/50", 1 / 50.8),
  mark("1/40", 1 / 40.3),
  mark("1/30", 1 / 32),
  mark("1/25", 1 / 25.4),
  mark("0.5", 0.5),
  mark("1", 1),
  mark("30", 32),
];
const COUNTED = [
  { below_seconds: 20, grain_seconds: 1 },
  { below_seconds: 300, grain_seconds: 10 },
  { below_seconds: null, grain_seconds: 60 },
];
const LADDERS = { shutter: SHUTTER, aperture: [], iso: [], counted: COUNTED } as unknown as Parameters<
  typeof nextTime
>[0];

describe("stepping along a dial", () => {
  it.each([
    ["1/40", 1, "1/30"],
    ["1/40", -1, "1/50"],
    ["1 s", 1, "30"],
    // A time between two marks steps to the one that way.
    ["1/45", 1, "1/40"],
    ["1/45", -1, "1/50"],
    ["0.7 s", -1, "0.5"],
    ["30 s", 1, undefined],
    ["1/60", -1, undefined],
  ] as const)("from %s by %d is %s", (value, by, next) => {
    expect(stepped(SHUTTER, value, by)).toBe(next);
  });

  it.each([
    ["1/30", 2, ["1/50", "1/40", "1/30", "1/25", "0.5"]],
    // At an end there are fewer; between two marks there is none in the middle.
    ["1/60", 2, ["1/60", "1/50", "1/40"]],
    ["30 s", 1, ["1", "30"]],
    ["1/45", 1, ["1/50", "1/40"]],
    ["90 s", 1, ["30"]],
  ] as const)("the marks around %s, %d each side, are %j", (value, most, labels) => {
    expect(around(SHUTTER, value, most)).toEqual(labels);
  });

  it.each([
    // On the dial a mark, past it what people count in, or what the timer does.
    [0.021, null, 1 / 50.8],
    [40, null, 40],
    [33, null, 32],
    [187, null, 190],
    [187, 60, 180],
    [187, 15, 180],
    [500, null, 480],
    [34, 60, 60],
  ] as const)("%d s, dragged to with a timer of %s, is %d", (seconds, timer, time) => {
    expect(snapped(LADDERS, seconds, timer)).toBe(time);
  });

  it("takes a time as it is before the dials are known", () => {
    expect(snapped(undefined, 187, null)).toBe(187);
  });

  it("goes on past the dial in whole minutes", () => {
    expect(nextTime(LADDERS, 1, 1)).toBe(32);
    expect(nextTime(LADDERS, 32, 1)).toBe(60);
    expect(nextTime(LADDERS, 203, 1)).toBe(240);
    expect(nextTime(LADDERS, 203, -1)).toBe(180);
    expect(nextTime(LADDERS, 60, -1)).toBe(32);
    expect(nextTime(LADDERS, 14_400, 1)).toBeUndefined();
    // What is the same time to a thousandth is not a step.
    expect(nextTime(LADDERS, 59.99, 1)).toBe(90);
  });
});
