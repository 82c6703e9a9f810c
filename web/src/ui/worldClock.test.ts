// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { instantOf, isReal, nowMs, onWorld, pace, realSecondsTo, setWorld } from "./worldClock";

describe("the clock at the tripod", () => {
  beforeEach(() => {
    vi.useFakeTimers({ now: 1_000_000 });
  });
  afterEach(() => {
    setWorld(null);
    vi.useRealTimers();
  });

  it("is the wall's, until a dry run brings its own, and again after", () => {
    expect([nowMs(), pace(), isReal()]).toEqual([1_000_000, 1, true]);
    setWorld({ world: 50_000, wall: 1_000_000, pace: 10 });
    vi.advanceTimersByTime(3000);
    expect([nowMs(), pace(), isReal()]).toEqual([80_000, 10, false]);
    setWorld(null);
    expect(nowMs()).toBe(1_003_000);
  });

  it.each([
    // Sixty times as fast, due after five minutes of its own: after 4.5 s it has half a minute to go, in real time.
    ["before", 60, 300, 4, 240],
    ["when it eases", 60, 300, 4.5, 270],
    ["long after, seen by nobody meanwhile", 60, 300, 14.5, 280],
    ["once it was due", 60, 300, 44.5, 310],
    ["ten times as fast", 10, 300, 29, 290],
    ["and a second later", 10, 300, 30, 291],
    ["sped up when it was near already", 60, 20, 1, 60],
    ["in real time", 1, 5, 10, 10],
    ["with nothing to wait for", 60, null, 10, 600],
  ])("eases by itself to real time near what a hand waits for: %s", (_, pace, due, wall, then) => {
    const clock = { world: 50_000, wall: 1_000_000, pace, due: due && 50_000 + due * 1000 };
    expect(instantOf(clock, 1_000_000 + wall * 1000)).toBeCloseTo(50_000 + then * 1000, 6);
  });

  it.each([
    [60, 300, 34.5],
    [60, 20, 1 / 3],
    [10, 300, 39],
    [1, 300, 300],
    [0, 300, Number.POSITIVE_INFINITY],
  ])("says when in real time a hand is waited for: %s times as fast, %s s left", (fast, left, real) => {
    setWorld({ world: 50_000, wall: 1_000_000, pace: fast, due: 50_000 + left * 1000 });
    expect(realSecondsTo(left)).toBeCloseTo(real, 9);
    if (fast === 0) return;
    // The clock itself stands there then.
    vi.advanceTimersByTime(real * 1000);
    expect(nowMs()).toBeCloseTo(50_000 + left * 1000, -2);
  });

  it("stands still, and tells whoever listens, once for each change", () => {
    const heard = vi.fn();
    const stop = onWorld(heard);
    const world = { world: 50_000, wall: 1_000_000, pace: 0 };
    setWorld(world);
    setWorld({ ...world });
    vi.advanceTimersByTime(60_000);
    expect(nowMs()).toBe(50_000);
    expect(heard).toHaveBeenCalledTimes(1);
    stop();
  });
});
