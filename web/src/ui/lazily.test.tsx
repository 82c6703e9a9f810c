// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { words } from "../words";
import { lazily } from "./lazily";

const Arrived = ({ name }: { name: string }) => <p>here: {name}</p>;

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

/** Fails as often as that, then comes. */
function failing(times: number) {
  return vi.fn(() => (times-- > 0 ? Promise.reject(new TypeError("Failed to fetch")) : Promise.resolve(Arrived)));
}

const wait = () => act(() => vi.advanceTimersByTimeAsync(10_000));

describe("a piece that is fetched when it is shown", () => {
  it.each([
    [0, "here: dialog"],
    [3, "here: dialog"],
    [4, words.missing.text],
  ])("that fails %i times at first", async (times, text) => {
    const Piece = lazily(failing(times));
    render(<Piece name="dialog" />);
    expect(screen.getByText(words.bench.waiting)).toBeTruthy();
    await wait();
    expect(screen.getByText(text)).toBeTruthy();
  });

  it("is asked for again by a press, and is there at once the next time", async () => {
    const fetchPiece = failing(6);
    const Piece = lazily(fetchPiece, true);
    const first = render(<Piece name="dialog" />);
    await wait();
    fireEvent.click(screen.getByRole("button", { name: words.trouble.again }));
    await wait();
    expect(screen.getByText("here: dialog")).toBeTruthy();
    first.unmount();
    render(<Piece name="another" />);
    expect(screen.getByText("here: another")).toBeTruthy();
    expect(fetchPiece).toHaveBeenCalledTimes(7);
  });
});
