// @vitest-environment happy-dom
import { afterEach, beforeEach, expect, type Mock, test, vi } from "vitest";
import { askTime } from "../questions/run";
import * as clock from "./clock";
import type { Frame } from "./frames";
import { store } from "./store";

vi.mock("../questions/run", () => ({ askTime: vi.fn() }));

const START = Date.parse("2027-04-17T04:30:00Z");
const asked = vi.mocked(askTime) as unknown as Mock<() => Promise<unknown>>;
let count = 0;

/** A frame that opened at the start, with the server's count then at 1000 s. */
function frame(run: Partial<NonNullable<Frame["run"]>> = {}): Frame {
  count += 1;
  const server_clock = { seconds: 1000, count: "this start" };
  return {
    id: `frame-${count}`,
    opened_at: new Date(START).toISOString(),
    run: { speed: 1, server_clock, ...run },
  } as unknown as Frame;
}

/** The same frame, opened so many seconds before that. */
function earlier(run: Frame, seconds: number): Frame {
  const opened_at = new Date(Date.parse(run.opened_at) - seconds * 1000).toISOString();
  const server_clock = { seconds: 1000 - seconds, count: "this start" };
  return { ...run, opened_at, run: { ...run.run, server_clock } } as unknown as Frame;
}

/** The server's own count, `seconds` after the opening. */
function server(seconds: number | null, name = "this start"): void {
  asked.mockImplementation(() =>
    seconds === null ? Promise.reject(new Error("away")) : Promise.resolve({ seconds: 1000 + seconds, count: name }),
  );
}

async function settled<T>(found: Promise<T>): Promise<T> {
  await vi.advanceTimersByTimeAsync(200);
  return found;
}

beforeEach(() => {
  vi.useFakeTimers({ toFake: ["Date", "performance", "setTimeout", "clearTimeout"], now: START });
  void store.setNote("alive", undefined);
  server(null);
});
afterEach(() => {
  vi.useRealTimers();
});

test("the page that opened it counts on its own clock, whatever the wall says", () => {
  const run = frame();
  clock.opened(run.id);
  vi.advanceTimersByTime(90_000);
  vi.setSystemTime(START + 5_000_000);
  expect(clock.openSeconds(run)).toBeCloseTo(90, 3);
  expect(clock.runNow(run).toISOString()).toBe("2027-04-17T04:31:30.000Z");
});

test("practice multiplies the camera's clock and a late press moves the opening", () => {
  const run = frame({ speed: 60 });
  vi.setSystemTime(START + 500);
  clock.opened(run.id);
  vi.advanceTimersByTime(2000);
  expect(clock.cameraSeconds(run)).toBeCloseTo(150, 3);
  expect(clock.openSeconds(earlier(run, 5))).toBeCloseTo(7.5, 3);
});

test("an opening put right while it is still asked how long it has been is right afterwards", async () => {
  const run = frame();
  vi.setSystemTime(START + 240_000);
  server(240);
  const watching = clock.watch(run);
  const right = earlier(run, 600);
  await settled(watching);
  expect(Math.floor(clock.openSeconds(right))).toBe(840);
  // A wall that jumps right then asks the server again: by the frame as it was before, or as it is now.
  for (const [open, asked_] of [
    [840, run],
    [840, right],
  ] as const) {
    vi.setSystemTime(Date.now() + 3_600_000);
    server(open - 600);
    await clock.checked(asked_);
    expect(Math.floor(clock.openSeconds(right))).toBe(open);
  }
});

test("a page that comes later asks the server, whose count no wall moves", async () => {
  const run = frame();
  vi.setSystemTime(START + 3_600_000);
  server(240);
  expect(await settled(clock.watch(run))).toBe("server");
  // Two tenths went by while no other page answered.
  expect(clock.openSeconds(run)).toBeGreaterThan(240);
  expect(clock.openSeconds(run)).toBeLessThan(240.3);
});

test.each([
  ["another start of the machine", 7, "another start"],
  ["no server at all", null, "this start"],
])("with %s the wall counts, and says so", async (_, seconds, name) => {
  const run = frame();
  vi.setSystemTime(START + 600_000);
  server(seconds, name);
  expect(await settled(clock.watch(run))).toBe("wall");
  expect(clock.openSeconds(run)).toBeGreaterThan(600);
});

test("a reload without a server goes on from the last sign of life, not from the wall", async () => {
  const run = frame();
  // The wall had been set ahead by an hour while the first page lived: it counted 100 s all the same.
  await store.setNote("alive", { id: run.id, wall: START + 3_700_000, at: START + 100_000 });
  vi.setSystemTime(START + 3_703_000);
  expect(await settled(clock.watch(run))).toBe("page");
  expect(clock.openSeconds(run)).toBeGreaterThan(102.9);
  expect(clock.openSeconds(run)).toBeLessThan(103.6);
});

test("a sign of life that is old, or of another frame, or from the future proves nothing", async () => {
  for (const alive of [
    { id: "", wall: START - 60_000, at: START + 5000 },
    { id: "another", wall: START, at: START + 5000 },
    { id: "", wall: START + 60_000, at: START + 5000 },
  ]) {
    const run = frame();
    await store.setNote("alive", { ...alive, id: alive.id || run.id });
    vi.setSystemTime(START + 30_000);
    expect(await settled(clock.watch(run))).toBe("wall");
  }
});

test.each([
  ["a clock set ahead", 3_600_000, 10, "clock_changed", 10],
  ["a clock set back", -3_600_000, 10, "clock_changed", 10],
  ["a machine that slept", 300_000, 310, "slept", 310],
])("%s is told by the server's count", async (_, jump, truth, said, open) => {
  const run = frame();
  clock.opened(run.id);
  vi.advanceTimersByTime(10_000);
  vi.setSystemTime(START + 10_000 + jump);
  server(truth);
  expect(await clock.checked(run)).toBe(said);
  expect(clock.openSeconds(run)).toBeCloseTo(open, 1);
  // Told once: from here on both clocks are alike again.
  expect(await clock.checked(run)).toBe("none");
});

test("with nobody to ask, forward is unknown and backward is a changed clock", async () => {
  for (const [jump, said] of [
    [60_000, "unknown"],
    [-60_000, "clock_changed"],
  ] as const) {
    const run = frame();
    vi.setSystemTime(START);
    clock.opened(run.id);
    vi.advanceTimersByTime(5000);
    expect(await clock.checked(run)).toBe("none");
    vi.setSystemTime(START + 5000 + jump);
    expect(await clock.checked(run)).toBe(said);
    expect(clock.openSeconds(run)).toBeCloseTo(5, 2);
  }
});

test("what the person remembers is counted on from", () => {
  const run = frame();
  clock.corrected(run, 120);
  vi.advanceTimersByTime(3000);
  expect(clock.openSeconds(run)).toBeCloseTo(123, 3);
});

test.each([
  ["takes over what was said in another page", null, 120],
  ["keeps what it knows better", 60, 60],
])("a page %s", async (_, known, then) => {
  const run = frame();
  vi.setSystemTime(START + 60_000);
  server(known);
  await settled(clock.watch(run));
  const other = new BroadcastChannel("jackstaff.run");
  other.postMessage({ tell: run.id, at: START + 120_000, corrected: true });
  // Asked after it, answered after it: by then it has been heard.
  const answer = new Promise((resolve) => other.addEventListener("message", resolve));
  const asker = frame();
  clock.opened(asker.id);
  other.postMessage({ ask: asker.id });
  await answer;
  other.close();
  expect(Math.floor(clock.openSeconds(run))).toBe(then);
});

test("the server's count at the opening is taken half-way between asking and hearing", async () => {
  const run = frame();
  clock.opened(run.id);
  vi.advanceTimersByTime(4000);
  asked.mockImplementation(async () => {
    await new Promise((resolve) => setTimeout(resolve, 100));
    return { seconds: 1004.05, count: "this start" };
  });
  const then = await settled(clock.serverClockAt(run));
  expect(then?.seconds).toBeCloseTo(1000, 2);
  server(null);
  expect(await clock.serverClockAt(run)).toBeNull();
});
