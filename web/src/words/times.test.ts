import { describe, expect, it } from "vitest";
import {
  askedText,
  clockText,
  markText,
  plannedTime,
  roughTime,
  saidStops,
  shortTime,
  signedStops,
  sumTime,
  timeText,
} from "./times";

describe("times as text", () => {
  it.each([
    [0, "0 s"],
    [1 / 64, "1/60"],
    [1 / 6.35, "1/6"],
    [1 / 203, "1/200"],
    [1e-6, "1/32000"],
    [0.28, "1/4"],
    [0.63, "0.6 s"],
    [4, "4 s"],
    [9.96, "10 s"],
    [59.6, "1 min"],
    [203.187, "3 min 23 s"],
    [3599.7, "1 h"],
    [40_960, "11 h 23 min"],
  ])("%d s is %s", (seconds, text) => expect(timeText(seconds)).toBe(text));

  it.each([
    [0, "0 s"],
    [0.0212, "1/50"],
    [9.74, "9.7 s"],
    [141.9, "2 min 20 s"],
    [290.9, "4 min 50 s"],
    [1195, "20 min"],
    [9000, "2 h 30 min"],
  ])("the end of a band at %d s is about %s", (seconds, text) => expect(roughTime(seconds)).toBe(text));

  it.each([
    [0, "0:00"],
    [59.99, "0:59"],
    [754, "12:34"],
    [3723, "1:02:03"],
    [-3, "0:00"],
  ])("a clock at %d s shows %s", (seconds, text) => expect(clockText(seconds)).toBe(text));

  it.each([
    [47.6, "48 s"],
    [203, "3:23"],
    [13_004, "3 h 37"],
    [3599.7, "1 h"],
  ])("%d s in short are %s", (seconds, text) => expect(shortTime(seconds)).toBe(text));

  it.each([
    [13, "+13.0"],
    [-0.0931, "−0.09"],
    [-0.333, "−0.3"],
    [0.001, "0"],
    [0, "0"],
  ])("%d stops are %s", (stops, text) => expect(signedStops(stops)).toBe(text));

  it.each([
    [1 / 64, 30, "1/60"],
    [16, 30, "15 s"],
    [32, 30, "30 s"],
    [32, 15, "32 s"],
    [64, 60, "1 min 04 s"],
    [2 ** (8 / 3), 30, "6 s"],
    [6.5, 30, "6.5 s"],
    [12.9, 30, "13 s"],
    [2 ** (-5 / 3), 30, "0.3 s"],
  ])("%d s in a sum, on a dial to %d s, are %s", (seconds, limit, text) => expect(sumTime(seconds, limit)).toBe(text));

  it.each([
    [{ set_seconds: 32, dial_mark: "30" }, "30 s"],
    [{ set_seconds: 1 / 64, dial_mark: "1/60" }, "1/60"],
    [{ set_seconds: 32, dial_mark: null }, "32 s"],
    [{ set_seconds: 300 }, "5 min"],
  ])("the time of a frame is its mark, or itself: %o", (answer, text) => expect(plannedTime(answer)).toBe(text));

  it.each([
    [2 / 3, "+⅔"],
    [-1.32, "−1 ⅓"],
    [0.58, "+0.6"],
    [-0.1, "−0.1"],
    [0.02, "0.0"],
  ])("a correction of %d stops is said as %s", (stops, text) => expect(saidStops(stops)).toBe(text));

  it("marks in seconds carry their unit", () => {
    expect([markText("1/60"), markText("4")]).toEqual(["1/60", "4 s"]);
  });
});

describe("what the light asked for", () => {
  it.each([
    [[], null],
    [[{ kind: "aimed", seconds: 120.4 }], null],
    [
      [
        { kind: "aimed", seconds: 80 },
        { kind: "aimed", seconds: 190 },
      ],
      "3 min 10 s",
    ],
    [
      [
        { kind: "aimed", seconds: 42.26 },
        { kind: "closed", seconds: null },
      ],
      "42.3 s",
    ],
  ])("%j is %s", (events, text) => expect(askedText({ events, answer: { set_seconds: 120 } })).toBe(text));
});
