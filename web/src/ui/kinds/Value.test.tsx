// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Value } from "./Value";

beforeEach(() => {
  Element.prototype.setPointerCapture = vi.fn();
});
afterEach(cleanup);

function shown() {
  const act = { onStep: vi.fn(), onType: vi.fn() };
  render(<Value what="Shutter" value="1/40" {...act} />);
  return { act, button: screen.getByRole("button", { name: "Shutter 1/40, type another" }) };
}

describe("a value", () => {
  it("is typed after a tap", () => {
    const { act, button } = shown();
    fireEvent.click(button);
    expect(act.onType).toHaveBeenCalledOnce();
    expect(act.onStep).not.toHaveBeenCalled();
  });

  it.each([
    ["ArrowUp", 1],
    ["ArrowLeft", -1],
  ])("steps along its dial by %s", (key, by) => {
    const { act, button } = shown();
    fireEvent.keyDown(button, { key });
    expect(act.onStep.mock.calls).toEqual([[by]]);
  });

  it("steps once for each notch of a drag upwards, and is not typed then", () => {
    const { act, button } = shown();
    fireEvent.pointerDown(button, { pointerId: 1, clientX: 0, clientY: 100 });
    for (const clientY of [86, 72]) fireEvent.pointerMove(button, { pointerId: 1, clientX: 0, clientY });
    fireEvent.pointerUp(button, { pointerId: 1, clientX: 0, clientY: 72 });
    fireEvent.click(button);
    expect(act.onStep.mock.calls).toEqual([[1], [1]]);
    expect(act.onType).not.toHaveBeenCalled();
  });
});
