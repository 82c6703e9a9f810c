// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useDrag } from "./useDrag";

const landed = vi.fn<(value: number) => void>();

function Slide() {
  const { held, handlers } = useDrag(
    ({ x, y }) => x - y,
    (value) => {
      landed(value);
    },
  );
  return <button {...handlers}>{held ?? "rests"}</button>;
}

afterEach(cleanup);

beforeEach(() => {
  landed.mockReset();
  Element.prototype.setPointerCapture = () => undefined;
});

test("a drag is measured from the press on, and lands where it is let go", () => {
  render(<Slide />);
  const slide = screen.getByRole("button");
  fireEvent.pointerMove(slide, { clientX: 90, clientY: 0 });
  expect(slide.textContent).toBe("rests");
  fireEvent.pointerDown(slide, { clientX: 100, clientY: 50 });
  expect(slide.textContent).toBe("0");
  fireEvent.pointerMove(slide, { clientX: 130, clientY: 45 });
  expect(slide.textContent).toBe("35");
  fireEvent.pointerUp(slide, { clientX: 140, clientY: 45 });
  expect(slide.textContent).toBe("rests");
  expect(landed.mock.calls).toEqual([[45]]);
  fireEvent.pointerUp(slide, { clientX: 300, clientY: 45 });
  expect(landed).toHaveBeenCalledTimes(1);
});

test("a pointer that the browser takes away lands nothing", () => {
  render(<Slide />);
  const slide = screen.getByRole("button");
  fireEvent.pointerDown(slide, { clientX: 100, clientY: 50 });
  fireEvent.pointerCancel(slide);
  fireEvent.pointerUp(slide, { clientX: 140, clientY: 50 });
  expect(landed).not.toHaveBeenCalled();
});
