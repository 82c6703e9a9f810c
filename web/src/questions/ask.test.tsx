// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { beforeEach, expect, test, vi } from "vitest";
import { answer, api, Refused, transport, Unreachable } from "../api/client";
import { forgetAnswers, isWorkedOut, remember, useAsk } from "./ask";

interface Question {
  n: number;
}
type Answer = (value: string) => void;

let waiting: { question: Question; signal: AbortSignal; answer: Answer; fail: (error: Error) => void }[] = [];

function ask(question: Question, signal: AbortSignal): Promise<string> {
  return new Promise((done, fail) => waiting.push({ question, signal, answer: done, fail }));
}

/** Let an answer arrive, and everything that follows from it. */
async function settle(arrives: () => void): Promise<void> {
  await act(async () => {
    arrives();
    await Promise.resolve();
  });
}

function asking(first: Question | null, how = {}) {
  const client = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  return renderHook(({ name, question }) => useAsk(name, question, ask, how), {
    wrapper,
    initialProps: { name: "sum", question: first },
  });
}

beforeEach(() => {
  waiting = [];
  forgetAnswers();
});

test("an answer is only handed out for the question that was asked", async () => {
  const hook = asking({ n: 1 });
  expect(hook.result.current).toMatchObject({ answer: undefined, shown: undefined, waiting: true, stale: false });
  await settle(() => waiting[0]?.answer("one"));
  await waitFor(() => expect(hook.result.current).toMatchObject({ answer: "one", shown: "one", stale: false }));
  hook.rerender({ name: "sum", question: { n: 2 } });
  // The old one may stand there greyed; nobody can act on it.
  expect(hook.result.current).toMatchObject({ answer: undefined, shown: "one", stale: true });
  hook.rerender({ name: "sum", question: { n: 3 } });
  expect(waiting.map((request) => request.signal.aborted)).toEqual([false, true, false]);
  await settle(() => waiting[1]?.answer("two, late"));
  expect(hook.result.current.answer).toBeUndefined();
  await settle(() => waiting[2]?.answer("three"));
  await waitFor(() => expect(hook.result.current).toMatchObject({ answer: "three", stale: false }));
});

test("what another quantity came to is not even shown", async () => {
  const hook = asking({ n: 1 });
  await settle(() => waiting[0]?.answer("f/11"));
  await waitFor(() => expect(hook.result.current.answer).toBe("f/11"));
  hook.rerender({ name: "iso", question: { n: 1 } });
  expect(hook.result.current).toMatchObject({ answer: undefined, shown: undefined });
  hook.rerender({ name: "iso", question: null });
  expect(hook.result.current).toMatchObject({ shown: undefined, waiting: false, stale: false });
});

test("the answer of the visit before stands greyed until there is one", async () => {
  remember("sum", "yesterday's");
  const hook = asking({ n: 1 });
  expect(hook.result.current).toMatchObject({ answer: undefined, shown: "yesterday's", stale: true });
  await settle(() => waiting[0]?.answer("one"));
  await waitFor(() => expect(hook.result.current.answer).toBe("one"));
});

test("nothing is worked out while something is still to come of it", async () => {
  const hook = asking(null);
  expect(isWorkedOut(hook.result.current)).toBe(true);
  hook.rerender({ name: "sum", question: { n: 1 } });
  expect(isWorkedOut(hook.result.current)).toBe(false);
  await settle(() => waiting[0]?.answer("one"));
  await waitFor(() => expect(isWorkedOut(hook.result.current)).toBe(true));
  hook.rerender({ name: "sum", question: { n: 2 } });
  expect(isWorkedOut(hook.result.current)).toBe(false);
  await settle(() => waiting[1]?.fail(new Refused(422, [{ field: "n", problem: "No.", instead: "Three." }])));
  await waitFor(() => expect(isWorkedOut(hook.result.current)).toBe(true));
  hook.rerender({ name: "other", question: { n: 3 } });
  await settle(() => waiting[2]?.fail(new Unreachable()));
  await waitFor(() => expect(waiting).toHaveLength(4));
  await settle(() => waiting[3]?.fail(new Unreachable()));
  await waitFor(() => expect(hook.result.current.error).toBeInstanceOf(Unreachable));
  expect(isWorkedOut(hook.result.current)).toBe(false);
});

test("a question that is asked when hands rest is stale while they move", async () => {
  vi.useFakeTimers({ shouldAdvanceTime: true });
  const hook = asking({ n: 1 }, { settle: 180 });
  await settle(() => waiting[0]?.answer("one"));
  await waitFor(() => expect(hook.result.current.answer).toBe("one"));
  for (const n of [2, 3, 4]) {
    hook.rerender({ name: "sum", question: { n } });
    expect(hook.result.current).toMatchObject({ answer: undefined, shown: "one", stale: true });
  }
  expect(waiting).toHaveLength(1);
  await act(() => vi.advanceTimersByTimeAsync(200));
  expect(waiting.map((request) => request.question.n)).toEqual([1, 4]);
  vi.useRealTimers();
});

test("a refusal takes the old answer away and is not asked again; silence is, once", async () => {
  const hook = asking({ n: 1 });
  await settle(() => waiting[0]?.answer("one"));
  hook.rerender({ name: "sum", question: { n: 2 } });
  await settle(() => waiting[1]?.fail(new Refused(422, [{ field: "n", problem: "No.", instead: "Three." }])));
  await waitFor(() => expect(hook.result.current.error?.message).toBe("No. Three."));
  expect(hook.result.current).toMatchObject({ answer: undefined, shown: undefined });
  expect(waiting).toHaveLength(2);
  hook.rerender({ name: "sum", question: { n: 3 } });
  await settle(() => waiting[2]?.fail(new Unreachable()));
  await waitFor(() => expect(waiting).toHaveLength(4));
  await settle(() => waiting[3]?.fail(new Unreachable(502)));
  await waitFor(() => expect(hook.result.current.error).toBeInstanceOf(Unreachable));
  act(() => hook.result.current.again());
  await waitFor(() => expect(waiting).toHaveLength(5));
});

test.each([
  ["no answer at all", () => Promise.reject(new TypeError("offline")), null],
  ["a gateway's page", () => Promise.resolve(new Response("<h1>Bad gateway</h1>", { status: 502 })), 502],
  ["an empty refusal", () => Promise.resolve(Response.json({}, { status: 500 })), 500],
])("%s is silence, and says which", async (_, fetch, status) => {
  const before = transport.fetch;
  transport.fetch = fetch;
  const error: unknown = await answer(api.GET("/api/session")).catch((caught: unknown) => caught);
  transport.fetch = before;
  expect(error).toBeInstanceOf(Unreachable);
  expect((error as Unreachable).status).toBe(status);
});
