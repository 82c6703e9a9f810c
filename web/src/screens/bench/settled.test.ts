// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import type { Steered } from "../../questions/bench";
import type { Laid } from "../../state/bench";
import { settledMark, withMark } from "./settled";

const LENS = { facts: { aperture_widest: 4, aperture_smallest: 16 } };
const laid = (floating: string, more: object = {}): Laid =>
  ({
    bench: { floating, targetSeconds: 120, shotAperture: "8", shotIso: "64" },
    lens: LENS,
    body: { offers: { isos: ["64", "100", "200"], apertures: [] } },
    fixedAperture: null,
    fixedIso: null,
    ...more,
  }) as unknown as Laid;
const steered = (value: number, nearest: [string, number][], missing: number | null = null): Steered =>
  ({
    value,
    nearest: nearest.map(([mark, cost_stops]) => ({ mark, cost_stops })),
    missing_stops: missing,
  }) as unknown as Steered;

describe("the mark that what is worked out stands at", () => {
  it.each<[string, Laid, Steered, { mark: string; atEnd: boolean } | null]>([
    [
      "the nearest of two",
      laid("iso"),
      steered(90, [
        ["64", -0.5],
        ["100", 0.15],
      ]),
      { mark: "100", atEnd: false },
    ],
    [
      "the nearest that the body has",
      laid("iso"),
      steered(52, [
        ["50", -0.05],
        ["64", 0.3],
      ]),
      { mark: "64", atEnd: false },
    ],
    ["the lowest where all are too high", laid("iso"), steered(12, [["12", 0]]), { mark: "64", atEnd: true }],
    ["the highest where all are too low", laid("iso"), steered(3200, [["3200", 0]]), { mark: "200", atEnd: true }],
    ["the end where something is missing", laid("iso"), steered(64, [["64", 0]], 1.5), { mark: "64", atEnd: true }],
    ["a film's one speed", laid("iso", { fixedIso: "400" }), steered(90, [["100", 0.1]]), { mark: "400", atEnd: true }],
    [
      "the lens's widest",
      laid("aperture", { fixedAperture: null }),
      steered(1.4, [["1.4", 0]]),
      { mark: "4", atEnd: true },
    ],
    [
      "a fixed aperture",
      laid("aperture", { fixedAperture: "8" }),
      steered(11, [["11", 0]]),
      { mark: "8", atEnd: true },
    ],
    ["nothing while the time is worked out", laid("time"), steered(90, [["100", 0.1]]), null],
  ])("is %s", (_, given, answer, mark) => {
    expect(settledMark(given, answer)).toEqual(mark);
  });

  it("is nothing before a time is held or an answer is there", () => {
    const open = laid("iso");
    expect(
      settledMark({ ...open, bench: { ...open.bench, targetSeconds: null } }, steered(90, [["100", 0]])),
    ).toBeNull();
    expect(settledMark(open, undefined)).toBeNull();
  });

  it("goes into the sum in its own place", () => {
    expect(withMark(laid("iso"), "100").bench).toMatchObject({ shotIso: "100", shotAperture: "8" });
    expect(withMark(laid("aperture"), "11").bench).toMatchObject({ shotIso: "64", shotAperture: "11" });
    expect(withMark(laid("iso"), undefined).bench).toMatchObject({ shotIso: "64", shotAperture: "8" });
  });
});
