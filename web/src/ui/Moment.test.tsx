// @vitest-environment happy-dom
import { act, cleanup, render } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Moment } from "./Moment";
import { isResting } from "./resting";

afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

describe("a change of moment", () => {
  it("lets nothing act for 700 ms, each time anew", () => {
    vi.useFakeTimers();
    const pass = (milliseconds: number) => act(() => void vi.advanceTimersByTime(milliseconds));
    const { rerender } = render(<Moment name="armed">…</Moment>);
    pass(699);
    expect(isResting()).toBe(true);
    pass(1);
    expect(isResting()).toBe(false);
    // The same moment drawn again is no new one.
    rerender(<Moment name="armed">…</Moment>);
    expect(isResting()).toBe(false);
    rerender(<Moment name="open">…</Moment>);
    expect(isResting()).toBe(true);
    pass(700);
    expect(isResting()).toBe(false);
  });
});
