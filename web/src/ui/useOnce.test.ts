// @vitest-environment happy-dom
import { act, renderHook } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import { useOnce } from "./useOnce";

it("does what is pressed twice once, and again when what came of it is shown, however it ended", async () => {
  const ends: ((error?: Error) => void)[] = [];
  const work = vi.fn<(said: string) => Promise<void>>(
    () => new Promise((done, fail) => ends.push((error) => (error ? fail(error) : done()))),
  );
  const { result } = renderHook(() => useOnce(work));
  await act(async () => {
    const first = result.current("one");
    await result.current("while it goes on");
    ends[0]?.();
    await first;
    await result.current("before that is shown");
  });
  await act(async () => {
    const failing = result.current("two");
    ends[1]?.(new Error("no"));
    await expect(failing).rejects.toThrow("no");
  });
  void result.current("three");
  expect(work.mock.calls).toEqual([["one"], ["two"], ["three"]]);
});
