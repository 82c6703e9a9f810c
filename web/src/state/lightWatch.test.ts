// @vitest-environment happy-dom
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { Refused } from "../api/client";
import type { Look, LookQuestion } from "../questions/lightWatch";
import type { Eyes } from "./eyes";
import { CannotSee } from "./eyes";
import { follow, followed, isMine, isWatching, lightWatch, looksFrom, startWatching, stopWatching } from "./lightWatch";
import { sampleFrame } from "./frame.test.data";
import { addFrame, changeFrame } from "./frames";
import { memoryShelf } from "./shelf";
import { drawer, store } from "./store";

const told: { asked: LookQuestion[]; eyes: Eyes; closed: number; look: (question: LookQuestion) => Promise<Look> } = {
  asked: [],
  closed: 0,
  eyes: { see: () => Promise.resolve(null), close: () => undefined },
  look: () => Promise.reject(new Error("nobody asked")),
};

vi.mock("../questions/lightWatch", () => ({
  askLook: (question: LookQuestion) => {
    told.asked.push(question);
    return told.look(question);
  },
}));
vi.mock("./eyes", async (original) => ({
  ...(await original<typeof import("./eyes")>()),
  cameraEyes: vi.fn(() => Promise.resolve(told.eyes)),
}));

const SEEN = { cells: [0.1], columns: 1, held: true, exposure_seconds: 0.01, iso: 100 };
const found = (stops: number | null, part = 0, sight: Look["sight"] = "watching"): Look => ({
  sight,
  stops,
  sd: stops === null ? null : 0.02,
  part,
  share: 1,
  phone_stops: -2,
  eye: { part } as never,
});

beforeEach(async () => {
  vi.useFakeTimers({ now: new Date("2027-04-17T04:00:00Z") });
  await store.open(memoryShelf(), "guest");
  told.asked.length = 0;
  told.closed = 0;
  told.eyes = {
    see: () => Promise.resolve(SEEN),
    close: () => {
      told.closed += 1;
    },
  };
  told.look = () => Promise.resolve(found(told.asked.length * 0.1));
});
afterEach(() => {
  stopWatching();
  vi.useRealTimers();
});

it("looks every few seconds with what it knew before, and is seen by every page", async () => {
  await startWatching("camera");
  await vi.advanceTimersByTimeAsync(8_500);
  expect(told.asked.map(({ before }) => before !== null)).toEqual([false, true, true]);
  expect(lightWatch()?.looks.map(({ stops }) => stops)).toEqual([0.1, 0.2, expect.closeTo(0.3)]);
  expect(lightWatch()).toMatchObject({ sight: "watching", phone: -2, frame: null });
  expect(isMine()).toBe(true);
});

it("says nothing about the light while the picture moved or the eye is shut", async () => {
  await startWatching("camera");
  told.look = () => Promise.resolve(found(null, 0, "moved"));
  await vi.advanceTimersByTimeAsync(4_000);
  expect(lightWatch()).toMatchObject({ sight: "moved" });
  told.eyes.see = () => Promise.resolve(null);
  await vi.advanceTimersByTimeAsync(4_000);
  expect(lightWatch()).toMatchObject({ sight: "away" });
  expect(lightWatch()?.looks).toHaveLength(1);
});

it("that is refused its exposure says so and lets the camera go", async () => {
  told.look = () => Promise.reject(new Refused(422, [{ field: "held", problem: "No.", instead: "Meter." }]));
  await startWatching("camera");
  expect(lightWatch()).toMatchObject({ sight: "ended", why: "tells_nothing", looks: [] });
  expect([told.closed, isMine()]).toEqual([1, false]);
});

it("without a camera says why", async () => {
  const { cameraEyes } = await import("./eyes");
  vi.mocked(cameraEyes).mockRejectedValueOnce(new CannotSee("refused"));
  await startWatching("camera");
  expect(lightWatch()).toMatchObject({ sight: "ended", why: "refused" });
});

it("that takes long to start says what it waits for, and may be stopped and begun anew meanwhile", async () => {
  const { cameraEyes } = await import("./eyes");
  let arrive: (eyes: Eyes) => void = vi.fn();
  vi.mocked(cameraEyes).mockReturnValueOnce(new Promise((resolve) => (arrive = resolve)));
  const slow = startWatching("camera");
  await vi.advanceTimersByTimeAsync(60_000);
  let watch = lightWatch();
  expect([watch?.sight, watch?.waits, watch && isWatching(watch)]).toEqual(["starting", "camera", true]);
  stopWatching();
  let answer: (look: Look) => void = vi.fn();
  told.look = () => new Promise((resolve) => (answer = resolve));
  const again = startWatching("camera");
  await vi.advanceTimersByTimeAsync(60_000);
  watch = lightWatch();
  expect([watch?.sight, watch?.waits, watch && isWatching(watch)]).toEqual(["starting", "core", true]);
  // The camera that came too late for the first start is let go, and disturbs the second one nowhere.
  arrive({ ...told.eyes });
  await slow;
  expect([told.closed, isMine()]).toEqual([1, true]);
  answer(found(0.1));
  await again;
  expect(lightWatch()?.sight).toBe("watching");
});

it("begun again goes on with what was seen, as another part", async () => {
  await startWatching("camera");
  stopWatching();
  await startWatching("camera");
  expect(lightWatch()?.looks.map(({ part }) => part)).toEqual([0, 1]);
  expect(told.asked.at(-1)?.before).toBeNull();
});

it("ends with its frame, and by itself after three quarters of an hour without one", async () => {
  await startWatching("camera");
  const opened = Date.now();
  follow("a", opened, 1);
  await vi.advanceTimersByTimeAsync(60 * 60_000);
  const watch = lightWatch();
  expect(watch && isWatching(watch)).toBe(true);
  followed("b");
  expect(isMine()).toBe(true);
  followed("a");
  expect([isMine(), told.closed, lightWatch()?.why]).toEqual([false, 1, null]);
  await startWatching("camera");
  expect(lightWatch()?.frame).toBeNull();
  await vi.advanceTimersByTimeAsync(46 * 60_000);
  expect(lightWatch()).toMatchObject({ sight: "ended", why: "long" });
});

it("belongs to the frame that opens even while a look takes long", async () => {
  await startWatching("camera");
  told.look = () => new Promise(() => undefined);
  await vi.advanceTimersByTimeAsync(30_000);
  const watch = lightWatch();
  expect(watch && isWatching(watch)).toBe(false);
  follow("a", Date.now(), 1);
  expect(lightWatch()?.frame?.id).toBe("a");
});

it("stops when somebody else is here: what one person's phone sees is nothing for another", async () => {
  await startWatching("camera");
  await store.become("account 2");
  await vi.advanceTimersByTimeAsync(8_000);
  expect([isMine(), told.closed, lightWatch()]).toEqual([false, 1, null]);
});

it("stopped by another page lets the camera go at its next look", async () => {
  await startWatching("camera");
  const watch = lightWatch();
  await drawer({ name: "lightwatch", version: 1, check: (content) => content }).set("watch", {
    ...watch,
    sight: "ended",
  });
  await vi.advanceTimersByTimeAsync(5_000);
  expect([isMine(), told.closed, lightWatch()?.sight]).toEqual([false, 1, "ended"]);
});

it("goes on from frame to frame of a series, and stops when its frame was ended elsewhere", async () => {
  await startWatching("camera");
  follow("a", Date.now(), 1);
  followed("a", true);
  expect([isMine(), lightWatch()?.frame]).toEqual([true, null]);
  await addFrame({ ...sampleFrame(), id: "b", state: "open", closed_at: null });
  follow("b", Date.now(), 1);
  await vi.advanceTimersByTimeAsync(5_000);
  expect(isMine()).toBe(true);
  await changeFrame("b", (frame) => ({ ...frame, state: "closed" }));
  await vi.advanceTimersByTimeAsync(5_000);
  expect([isMine(), told.closed]).toEqual([false, 1]);
});

it("keeps its looks in order when the clock is set back", async () => {
  await startWatching("camera");
  vi.setSystemTime(Date.now() - 3_600_000);
  await vi.advanceTimersByTimeAsync(9_000);
  const seen = lightWatch()?.looks.map(({ at }) => at) ?? [];
  expect(seen.length).toBeGreaterThan(1);
  expect(seen.every((at, place) => place === 0 || at > (seen[place - 1] ?? 0))).toBe(true);
});

it("counts seconds from any instant, at the pace of a practice clock after it, with what came just before", () => {
  const zero = 1_000_000;
  const looks = [-90, -30, 3, 6].map((second) => ({ at: zero + second * 1000, stops: 0, sd: 0, part: 0 }));
  const seen = looksFrom({ looks } as never, zero, zero, 60);
  expect(seen.map(({ at_seconds }) => at_seconds)).toEqual([-30, 180, 360]);
  expect(seen.every(({ sd }) => sd > 0)).toBe(true);
});
