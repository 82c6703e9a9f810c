// @vitest-environment happy-dom
import { renderHook } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import { useOnce } from "./useOnce";

it("does what is pressed twice once, and again when it is over, however it ended", async () => {
  const ends: ((error?: Error) => void)[] = [];
  const act = vi.fn<(said: string) => Promise<void>>(
    () => new Promise((done, fail) => ends.push((error) => (error ? fail(error) : done()))),
  );
  const { result } = renderHook(() => useOnce(act));
  const first = result.current("one");
  await result.current("two");
  ends[0]?.();
  await first;
  const failing = result.current("three");
  ends[1]?.(new Error("no"));
  await expect(failing).rejects.toThrow("no");
  void result.current("four");
  expect(act.mock.calls).toEqual([["one"], ["three"], ["four"]]);
});
