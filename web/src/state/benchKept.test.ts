// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { fromStarter } from "./bench";
import { readBench } from "./benchKept";

const FIRST = fromStarter({ reading: { shutter: "1/40", aperture: "9", iso: "64" } });
const KEPT = { ...FIRST, shutter: "8 s", on: ["six"], turned: { six: 4 } };
const without = (...parts: string[]) =>
  Object.fromEntries(Object.entries(KEPT).filter(([key]) => !parts.includes(key)));

describe("a bench that was kept", () => {
  it.each([
    ["today", KEPT, {}],
    [
      "when a filter in the reading was known by its id alone, and was on still",
      { ...without("through", "throughSaid"), inReading: ["six", "three"] },
      {
        through: [
          { id: "six", turn: 4, glass: null },
          { id: "three", turn: null, glass: null },
        ],
        throughSaid: [],
      },
    ],
    ["before a forecast could stand in for a reading", without("expectedSd", "skyBelieved", "saidLight"), {}],
    ["before a frame could be corrected", without("correction", "seenLight", "purposeThirds", "monochrome"), {}],
  ])("%s says the same", (_, content, more) => {
    expect(readBench(content, FIRST)).toEqual({ ...KEPT, ...more });
  });

  it.each([
    ["a reading of thousands of signs", { ...KEPT, shutter: "9".repeat(9999) }],
    ["more filters than a lens takes", { ...KEPT, through: Array(9).fill({ id: "six", turn: null, glass: null }) }],
    ["an hour that is none", { ...KEPT, meteredAt: "noon" }],
  ])("is not taken with %s", (_, content) => expect(readBench(content, FIRST)).toBeNull());
});
