// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { isReal, nowMs, onWorld, pace, setWorld } from "./worldClock";

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
