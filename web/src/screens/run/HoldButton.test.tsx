// @vitest-environment happy-dom
import { act, cleanup, createEvent, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { HoldButton } from "./HoldButton";

const held = vi.fn();

beforeEach(() => {
  vi.useFakeTimers();
  Element.prototype.setPointerCapture = () => undefined;
});

afterEach(() => {
  cleanup();
  vi.useRealTimers();
  held.mockReset();
});

/** What a browser tells of a finger or a key, at a time of its own. */
function at(ms: number, kind: "pointerDown" | "pointerUp" | "keyDown" | "keyUp"): void {
  const button = screen.getByRole("button");
  const event = createEvent[kind](button, { key: "Enter", button: 0 });
  Object.defineProperty(event, "timeStamp", { value: 1000 + ms });
  fireEvent(button, event);
}

describe("a button that is held", () => {
  it.each([
    ["a page that keeps up", "pointer", 700, 700, 1],
    ["a page held up until the finger has gone", "pointer", 0, 700, 1],
    ["a page held up, by a key", "key", 0, 700, 1],
    ["a touch in passing", "pointer", 0, 300, 0],
    ["a touch in passing, late to be heard of", "pointer", 400, 300, 0],
  ] as const)("%s", (_, by, runs, letGo, times) => {
    render(
      <HoldButton onHeld={held} hint="Hold" onceMore="Once more">
        Close
      </HoldButton>,
    );
    at(0, by === "key" ? "keyDown" : "pointerDown");
    vi.advanceTimersByTime(runs);
    at(letGo, by === "key" ? "keyUp" : "pointerUp");
    vi.advanceTimersByTime(2000);
    expect(held).toHaveBeenCalledTimes(times);
  });
});

describe("a remote that can only press", () => {
  it.each([
    ["twice, closely", [900, 1500], 1],
    ["twice, far apart", [900, 3000], 0],
    ["once more after the two far apart", [900, 3000, 3500], 1],
    ["right after the button has come", [100, 900], 0],
  ] as const)("%s", (_, presses, times) => {
    render(
      <HoldButton onHeld={held} hint="Hold" onceMore="Once more" remote>
        Close
      </HoldButton>,
    );
    let now = 0;
    for (const ms of presses) {
      act(() => void vi.advanceTimersByTime(ms - now));
      now = ms;
      fireEvent.keyDown(document.body, { key: "Enter", code: "Enter" });
      fireEvent.keyUp(document.body, { key: "Enter", code: "Enter" });
    }
    expect(held).toHaveBeenCalledTimes(times);
    // What is missing is said, as long as it would do.
    expect(screen.queryByText("Once more") !== null).toBe(times === 0);
    act(() => void vi.advanceTimersByTime(2000));
    expect(screen.queryByText("Hold")).not.toBeNull();
  });
});
