import { describe, expect, it } from "vitest";
import { blendOf, PREPARED } from "./prepared";

describe("the drawings under a moving pennant", () => {
  it.each([
    [1, 2, 0],
    [8, 3, 0],
    [2, 2, 1 / 3],
    [4, 2, 2 / 3],
    [1 / 4000, 0, 0],
  ])("%f s lies on the drawing %i and %f of the next", (seconds, under, share) => {
    const blend = blendOf(seconds);
    expect(blend.under).toBe(under);
    expect(blend.share).toBeCloseTo(share);
  });

  it("stays on the last one past it", () => {
    expect(blendOf(86_400)).toEqual({ under: PREPARED.length - 1, share: 1 });
  });
});
