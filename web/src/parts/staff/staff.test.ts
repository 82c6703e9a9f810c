import { describe, expect, it } from "vitest";
import { axis, thirds, ticks } from "./axis";
import { partsOf, staffText } from "./parts";

const step = (kind: string, stops: number, seconds: number, glass: number | null = null) => ({
  name: kind,
  kind,
  stops,
  seconds,
  glass,
});

describe("the staff", () => {
  it("gives every stop the same length and longer times more height", () => {
    const scale = axis([1 / 40, 200], 20, 520);
    const stop = scale(1) - scale(2);
    expect(stop).toBeGreaterThan(10);
    expect(scale(1 / 30) - scale(1 / 15)).toBeCloseTo(stop, 6);
    expect(scale(1 / 40)).toBeLessThan(520);
    expect(scale(200)).toBeGreaterThan(20);
  });

  it("holds the fastest dial mark and a whole day, its labels apart", () => {
    const scale = axis([1 / 32000, 86_400], 20, 520);
    const shown = ticks(scale);
    const heights = shown.map((tick) => scale(tick.seconds));
    heights.slice(1).forEach((height, place) => expect((heights[place] ?? 0) - height).toBeGreaterThanOrEqual(22));
    expect([shown[0]?.label, shown.at(-1)?.label]).toEqual([expect.stringMatching("1/"), expect.stringMatching("h")]);
    expect(thirds(axis([1, 2], 0, 100, 1)).length).toBeGreaterThan(3);
  });

  it("makes one block of a glass and what it measures, and hangs glass of the reading below", () => {
    const parts = partsOf({
      answer: {
        steps: [
          step("reading", 0, 1),
          step("glass", 3, 8, 0),
          step("measured", 1, 16, 0),
          step("in_reading", 0, 16, 1),
          step("aperture", -2, 4),
        ],
      },
      stack: [
        { name: "Slot ND 3", stops: 3, offset: 1 },
        { name: "Clip-on pol", stops: 2 },
      ],
      settings: { aperture: "4", iso: "64" },
    });
    expect(parts.map(({ kind, name, stops, from, to }) => [kind, name, stops, from, to])).toEqual([
      ["glass", "Slot ND 3", 4, 1, 16],
      ["in_reading", "Clip-on pol", 2, 0.25, 1],
      ["aperture", "f/4", -2, 16, 4],
    ]);
    expect(staffText({ base_seconds: 1, set_seconds: 4 }, parts, 30)).toBe(
      "The meter says 1 s. Slot ND 3 +4.0 stops, 15 s. Clip-on pol, on while metering +2.0 stops, 1 s." +
        " f/4 −2.0 stops, 4 s. Set 4 s.",
    );
  });
});
