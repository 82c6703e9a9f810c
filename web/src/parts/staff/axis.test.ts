import { describe, expect, it } from "vitest";
import { axis, thirds, ticks } from "./axis";

const TOP = 20;
const BOTTOM = 620;

describe("the axis of times", () => {
  it.each([[[1 / 40, 13]], [[1 / 8000, 3600]], [[30]], [[1 / 60, 1 / 60]]])(
    "holds %s with room on both sides, longer times higher",
    (times) => {
      const place = axis(times, TOP, BOTTOM);
      for (const time of times) {
        expect(place(time)).toBeGreaterThan(TOP);
        expect(place(time)).toBeLessThan(BOTTOM);
      }
      expect(place(place.ends[0])).toBeCloseTo(BOTTOM);
      expect(place(place.ends[1])).toBeCloseTo(TOP);
      expect(Math.log2(place.ends[1] / place.ends[0])).toBeGreaterThanOrEqual(12 - 1e-9);
    },
  );

  it("gives every stop the same length", () => {
    const place = axis([1 / 40, 13], TOP, BOTTOM);
    const stop = place(1) - place(2);
    for (const seconds of [1 / 30, 1 / 4, 4]) expect(place(seconds) - place(seconds * 2)).toBeCloseTo(stop);
  });

  it("marks full stops inside the axis, none closer than the gap", () => {
    const place = axis([1 / 4000, 7200], TOP, BOTTOM);
    const shown = ticks(place, 40);
    expect(shown.length).toBeGreaterThan(5);
    shown.slice(1).forEach((mark, at) => {
      const before = shown[at];
      if (before) expect(Math.abs(place(before.seconds) - place(mark.seconds))).toBeGreaterThanOrEqual(40);
    });
    expect(shown.every(({ seconds }) => seconds >= place.ends[0] && seconds <= place.ends[1])).toBe(true);
    // A dial's marks are powers of two, minutes and hours what they say.
    const labels = ticks(axis([1 / 60, 3600], TOP, 4000), 1);
    expect(labels.find(({ label }) => label === "1/60")?.seconds).toBe(1 / 64);
    expect(labels.find(({ label }) => label === "30 s")?.seconds).toBe(32);
    expect(labels.find(({ label }) => label === "16 min")?.seconds).toBe(960);
  });

  it("has three rungs a stop, whole stops among them", () => {
    const place = axis([1, 2], TOP, BOTTOM, 3);
    const rungs = thirds(place);
    rungs.slice(1).forEach((rung, at) => expect(Math.log2(rung / (rungs[at] ?? 0))).toBeCloseTo(1 / 3));
    expect(rungs.some((rung) => Math.abs(rung - 1) < 1e-12)).toBe(true);
    expect(rungs.every((rung) => rung >= place.ends[0] && rung <= place.ends[1])).toBe(true);
  });
});
