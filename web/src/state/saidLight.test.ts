import { describe, expect, it } from "vitest";
import { saidMoving, seenMoving } from "./saidLight";

const AT = "2027-04-17T18:00:00.000Z";
const later = (minutes: number) => Date.parse(AT) + minutes * 60_000;

describe("how the light moves, as somebody says", () => {
  it.each([
    ["a stop darker in five minutes", -5, 0, { stops_per_minute: -0.2, rate_sd: 0.2 / 3 }],
    ["a stop brighter in twenty", 20, 119, { stops_per_minute: 0.05, rate_sd: 0.05 / 3 }],
    ["steady, which may still move a little", 0, 0, { stops_per_minute: 0, rate_sd: 0.03 }],
    ["said more than two hours ago", -5, 121, null],
  ] as const)("%s", (_, stopMinutes, minutes, rate) => {
    const found = saidMoving({ at: AT, stopMinutes }, later(minutes));
    if (rate === null) expect(found).toBeNull();
    else {
      expect(found?.stops_per_minute).toBeCloseTo(rate.stops_per_minute, 9);
      expect(found?.rate_sd).toBeCloseTo(rate.rate_sd, 9);
    }
  });

  it("is nothing where nobody said or saw anything", () => {
    expect(saidMoving(null, later(0))).toBeNull();
    expect(seenMoving(null, later(0), 0)).toBeNull();
  });
});

describe("the light as the last frame saw it", () => {
  const seen = { at: AT, moved_stops: -0.5, moved_sd: 0.03, stops_per_minute: -0.1, rate_sd: 0.01 };

  it.each([
    // Minutes since, what has moved by then, its doubt: the rate's own doubt grows with the time.
    [0, -0.5, 0.03],
    [4, -0.9, 0.05],
    [4.2, -0.9, 0.05],
    [4.3, -0.95, Math.hypot(0.03, 0.045)],
    // A clock that was set back takes nothing off.
    [-3, -0.5, 0.03],
  ])("%d min later it has moved %d stops, give or take %d", (minutes, moved, sd) => {
    const found = seenMoving(seen, later(minutes), 90);
    expect(found?.moved_stops).toBeCloseTo(moved, 9);
    expect(found?.moved_sd).toBeCloseTo(sd, 9);
    expect(found).toMatchObject({ stops_per_minute: -0.1, rate_sd: 0.01, delay_seconds: 90 });
  });

  it.each([
    [-5, 0],
    [7 * 3600, 6 * 3600],
  ])("a reading %d s old delays it by %d s", (age, delay) => {
    expect(seenMoving(seen, later(0), age)?.delay_seconds).toBe(delay);
  });
});
