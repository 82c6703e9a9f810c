// @vitest-environment happy-dom
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Exposure } from "../questions/bench";
import type { Armed, Plan } from "./armed";
import { openSeconds } from "./clock";
import { sampleFrame } from "./frame.test.data";
import { changeFrame, type Frame, frameNow, openFrame } from "./frames";
import { remember } from "./habits";
import {
  arm,
  darkFrame,
  disarm,
  end,
  extend,
  justTime,
  noteServerClock,
  open,
  openedAgo,
  openedEarlier,
  queued,
  rearm,
  rehearse,
  reread,
  showEnded,
  takeBack,
  takeSeries,
  tryFirst,
  unopened,
} from "./running";
import { memoryShelf } from "./shelf";
import { drawer, kindOf, store } from "./store";
import { givenOut } from "./trigger";

const core = vi.hoisted(() => ({
  error: vi.fn(({ planned_seconds: planned, actual_seconds: actual }: Record<string, number>) =>
    Promise.resolve({ seconds: (actual ?? 0) - (planned ?? 0), stops: Math.log2((actual ?? 1) / (planned ?? 1)) }),
  ),
  press: vi.fn(),
  letGo: vi.fn(),
}));
vi.mock("../questions/bench", async (original) => ({
  ...(await original<typeof import("../questions/bench")>()),
  askExposure: () => Promise.resolve(ANSWERED),
}));
vi.mock("../questions/run", () => ({
  askTimingError: core.error,
  press: core.press,
  letGo: core.letGo,
  askTime: () => Promise.reject(new Error("nobody there")),
}));

const ANSWERED = {
  ...sampleFrame().answer,
  metered_seconds: 30,
  set_seconds: 30,
  residue_stops: -2.8,
  bulb: false,
} as unknown as Exposure;

const drawn = drawer<Armed>({ name: "armed", version: 1, check: (content) => content as Armed });
const armed = () => drawn.get("armed");
const NOW = new Date("2027-04-17T04:30:00Z");

function plan(run: Partial<Plan["run"]> = {}, part: Partial<Plan> = {}): Plan {
  const { reading, settings, stack, scale, dial_limit } = sampleFrame();
  return {
    reading,
    settings,
    stack,
    scale,
    dial_limit,
    answer: { seconds: 203, set_seconds: 203, base_seconds: 203, sure_within_stops: 0.4, dial_mark: null, steps: [] },
    run: unopened({ metered_seconds: 203, ...run }),
    ...part,
  };
}

/** Arm a plan and open it; the frame that runs. */
async function opened(armedPlan = plan(), list: object | null = null): Promise<Frame> {
  arm({ plan: armedPlan, question: null, list: list as never });
  expect(await open(NOW)).toBeNull();
  const frame = openFrame();
  if (!frame) throw new Error("nothing runs");
  return frame;
}

const kinds = (frame: Frame | null) => frame?.events.map((event) => event.kind);

beforeEach(async () => {
  vi.clearAllMocks();
  await store.open(memoryShelf(), "guest");
  remember({ device: { kind: "hand", speed: 1, delay: 0, fault: "none" } as never, closes: "hand" });
});

it("what an earlier day's program kept of a frame is read by today's names", () => {
  const review = { came_out: -1, seen: ["cast"], tasted: [], because: null };
  const run = { speed: 1, steady: { seconds: 970, count: "a" } };
  expect(kindOf("frame")?.check({ ...sampleFrame(), run, review })).toMatchObject({
    run: { speed: 1, server_clock: { seconds: 970, count: "a" } },
    review: { error_stops: -1, defects: ["cast"], because: null },
  });
  expect(kindOf("frame")?.check(sampleFrame({ review: null }))).toMatchObject({ review: null });
});

it("and changed by them, whatever page kept it", async () => {
  const doc = { owner: "guest", kind: "frame", id: "a", version: 1, stamp: store.stamp(), sort: "0", number: 0 };
  const review = { came_out: -1, seen: ["cast"], tasted: [], because: null };
  await store.shelf.change("guest", "frame", "a", () => ({
    ...doc,
    content: { ...sampleFrame(), review },
    waiting: null,
  }));
  await changeFrame("a", (now) => (now.review ? { ...now, review: { ...now.review, error_stops: 0 } } : undefined));
  const kept = (await store.shelf.get("guest", "frame", "a"))?.content;
  expect((kept as Frame).review).toEqual({ error_stops: 0, defects: ["cast"], tasted: [], because: null });
});

describe("opening", () => {
  it("takes the plan as it was set up, once, and says how it was opened", async () => {
    const decided = plan({ bias_stops: 0.05, stops_per_minute: 0.1, delay_seconds: 60 });
    const frame = await opened(decided);
    expect(frame).toMatchObject({ state: "open", opened_at: NOW.toISOString(), answer: decided.answer });
    expect(frame.run).toMatchObject({
      bias_stops: 0.05,
      stops_per_minute: 0.1,
      device: "hand",
      uncertain_seconds: 0.2,
    });
    // A second press, on this page or another, opens nothing.
    expect(await open(new Date(NOW.getTime() + 1000))).toBeNull();
    expect(openFrame()?.id).toBe(frame.id);
  });

  it("is watched before it is shown: a page that goes at once leaves a frame whose time is known", async () => {
    const signs: Promise<unknown>[] = [];
    const leave = store.subscribe(() => {
      if (openFrame()) signs.push(store.note("alive"));
    });
    const { id } = await opened();
    leave();
    expect(await signs[0]).toMatchObject({ id });
  });

  it("opens one frame by two presses", async () => {
    arm({ plan: plan(), question: null, list: null });
    expect(await Promise.all([open(NOW), open(NOW)])).toEqual([null, null]);
    expect(store.view("frame")).toHaveLength(1);
  });

  it("opens one frame by two presses on two pages that have not heard of each other yet", async () => {
    // The browser's own lock, and no news between pages.
    let turn: Promise<unknown> = Promise.resolve();
    const request = (_: string, work: () => Promise<unknown>) => (turn = turn.then(work));
    vi.stubGlobal("navigator", { locks: { request } });
    vi.stubGlobal("indexedDB", new IDBFactory());
    const pages = [];
    for (let n = 0; n < 2; n += 1) {
      vi.resetModules();
      const [running, frames, own, { openShelf }] = await Promise.all([
        import("./running"),
        import("./frames"),
        import("./store"),
        import("./shelf"),
      ]);
      await own.store.open(await openShelf(), "guest");
      running.arm({ plan: plan(), question: null, list: null });
      pages.push({ ...running, ...frames, ...own });
    }
    const [a, b] = pages as [(typeof pages)[number], (typeof pages)[number]];
    expect(await Promise.all([a.open(NOW), b.open(NOW)])).toEqual([null, null]);
    const [kept] = await a.store.shelf.whole("guest", ["frame"]);
    expect(await a.store.shelf.count("guest", "frame")).toBe(1);
    expect([a.openFrame()?.id, b.openFrame()?.id]).toEqual([kept?.id, kept?.id]);
    vi.unstubAllGlobals();
  });

  it("is as late as one's own release says", async () => {
    remember({ device: { kind: "hand", speed: 1, delay: 0.5, fault: "none" } as never });
    expect((await opened()).opened_at).toBe(new Date(NOW.getTime() + 500).toISOString());
  });

  it("hears from a device when it really opened, and why it did not", async () => {
    remember({ device: { kind: "simulated", speed: 60, delay: 0, fault: "battery" } as never });
    arm({ plan: plan(), question: null, list: null });
    const failure = { code: "battery", text: "It is flat.", line: "remote" };
    core.press.mockResolvedValueOnce({ at: null, failure });
    expect(await open(NOW)).toEqual(failure);
    expect(openFrame()).toBeUndefined();
    core.press.mockRejectedValueOnce(new Error(""));
    expect(await open(NOW)).toMatchObject({ code: "unreachable", text: null, line: "remote" });
    core.press.mockResolvedValueOnce({ at: "2027-04-17T04:30:00.120Z" });
    expect(await open(NOW)).toBeNull();
    expect(openFrame()).toMatchObject({
      opened_at: "2027-04-17T04:30:00.120Z",
      run: { device: "simulated", speed: 60, closes: "mark" },
    });
  });
});

describe("on the way", () => {
  it("counts thirds on top of what was decided, and keeps every reading", async () => {
    const { id } = await opened(plan({ bias_stops: 0.05 }));
    const frame = () => frameNow(id) as Frame;
    await extend(frame(), 1 / 3);
    await extend(frame(), 1 / 3);
    await extend(frame(), -1 / 3);
    await reread(frame(), -1);
    expect(frame().run?.bias_stops).toBeCloseTo(0.05 + 1 / 3);
    expect(frame().run?.rereads.map((each) => each.stops)).toEqual([-1]);
    expect(kinds(frame())).toEqual(["opened", "extended", "extended", "cut", "reread"]);
  });

  it("moves all that is counted from an opening along with it", async () => {
    const light = { stops_per_minute: -0.5, delay_seconds: 60, moved_stops: 1 };
    const frame = await opened(plan(light));
    const { run } = frameNow(frame.id) as Frame;
    await noteServerClock(frame, { seconds: 1000, count: "a" });
    await reread(frameNow(frame.id) as Frame, 1);
    const at = frameNow(frame.id)?.run?.rereads[0]?.at_seconds ?? Number.NaN;
    await openedEarlier(frame, 30);
    expect(frameNow(frame.id)?.run).toMatchObject({
      delay_seconds: (run?.delay_seconds ?? 0) - 30,
      moved_stops: (run?.moved_stops ?? 0) + 0.25,
      server_clock: { seconds: 970, count: "a" },
      rereads: [{ at_seconds: at + 30, stops: 1 }],
    });
    // Later than thought: what was read before is kept, in its order, and what was waited grows to a day at most.
    await openedEarlier(frame, -100_000);
    expect(frameNow(frame.id)?.run).toMatchObject({ delay_seconds: 86_400, moved_stops: -40 });
    expect(frameNow(frame.id)?.run?.rereads[0]?.at_seconds).toBeCloseTo(at + 30 - 100_000, 3);
    await openedAgo(frameNow(frame.id) as Frame, 90);
    expect(openSeconds(frameNow(frame.id) as Frame)).toBeCloseTo(90, 0);
  });

  it("moves the opening, and nothing of a frame that has ended meanwhile", async () => {
    const frame = await opened();
    await openedEarlier(frame, 5);
    expect(frameNow(frame.id)?.opened_at).toBe(new Date(NOW.getTime() - 5000).toISOString());
    await end(frame, "hand", 200, null);
    const ended = frameNow(frame.id);
    await openedEarlier(frame, 5);
    await extend(frame, 1 / 3);
    expect(frameNow(frame.id)).toEqual(ended);
  });

  it("takes the server's count for an opening that was put right meanwhile as it is for that one", async () => {
    const frame = await opened();
    await openedEarlier(frame, 600);
    await noteServerClock(frame, { seconds: 1000, count: "a" });
    expect(frameNow(frame.id)?.run?.server_clock).toEqual({ seconds: 400, count: "a" });
  });

  it("notices a device that gave out before its time", async () => {
    const frame = await opened(plan({ speed: 60 }));
    core.letGo.mockResolvedValueOnce({ at: NOW.toISOString(), ended_by: "asked" });
    expect(await givenOut(frame, 203, 60)).toBeNull();
    const at = new Date(NOW.getTime() + 1000).toISOString();
    core.letGo.mockResolvedValueOnce({ at, ended_by: "battery", failure: { text: "It is flat." } });
    // A second of this device is a second here: plans of another speed are its own.
    const fast = { ...frame, run: { ...plan().run, speed: 60 } };
    expect(await givenOut(fast, 203, 60)).toEqual({
      seconds: 60,
      text: "It is flat.",
    });
  });
});

describe("ending", () => {
  it("is written once, with what the light asked for and how far off it was", async () => {
    const frame = await opened();
    await end(frame, "hand", 210, 200);
    const ended = frameNow(frame.id);
    expect(ended).toMatchObject({
      state: "closed",
      closed_by: "hand",
      actual_seconds: 210,
      closed_at: new Date(NOW.getTime() + 210_000).toISOString(),
      error: { seconds: 10 },
    });
    expect(core.error).toHaveBeenCalledWith(expect.objectContaining({ planned_seconds: 200, actual_seconds: 210 }));
    expect(kinds(ended)).toEqual(["opened", "aimed", "closed"]);
    expect(armed()?.finished).toBe(frame.id);
    // Whoever comes second leaves it as it is.
    await end(frame, "aborted", 300, null);
    expect(frameNow(frame.id)).toEqual(ended);
  });

  it("given up is no verdict about anything", async () => {
    const frame = await opened(plan(), { body: { noise_reduction: "on" } });
    await end(frame, "aborted", 20, 203);
    expect(frameNow(frame.id)).toMatchObject({ state: "aborted", closed_by: null, run: { busy_until: null } });
    expect(kinds(frameNow(frame.id))).toEqual(["opened", "aborted"]);
  });

  it.each([
    ["on", 120, 240_000],
    ["fixed", 120, 240_000],
    ["off", 120, null],
    ["on", 0.5, null],
  ])("with noise reduction %s after %d s keeps the camera busy for as long again", async (noise, open_, until) => {
    const frame = await opened(plan(), { body: { noise_reduction: noise } });
    await end(frame, "hand", open_, null);
    const busy = until === null ? null : new Date(NOW.getTime() + until).toISOString();
    expect(frameNow(frame.id)?.run?.busy_until ?? null).toBe(busy);
    expect(armed()?.busyUntil ?? null).toBe(busy);
  });

  it("can be taken back, and the clock never stopped", async () => {
    const frame = await opened();
    await end(frame, "hand", 210, null);
    await takeBack(frame);
    expect(frameNow(frame.id)).toMatchObject({ state: "open", closed_at: null, actual_seconds: null, error: null });
    expect(kinds(frameNow(frame.id))).toEqual(["opened", "closed", "taken_back"]);
    expect(armed()?.finished).toBeNull();
  });

  it("does not give an end to a frame that was taken back while the core thought", async () => {
    const frame = await opened();
    let answer: (error: { seconds: number; stops: number }) => void = () => undefined;
    core.error.mockReturnValueOnce(new Promise((done) => (answer = done)));
    const ending = end(frame, "hand", 210, null);
    await vi.waitFor(() => expect(frameNow(frame.id)?.state).toBe("closed"));
    await takeBack(frame);
    answer({ seconds: 7, stops: 0.05 });
    await ending;
    expect(frameNow(frame.id)).toMatchObject({ state: "open", error: null });
  });

  it("of a stopwatch is the time that it was meant to have", async () => {
    justTime(null, 30);
    await open(NOW);
    const frame = openFrame() as Frame;
    await end(frame, "hand", 42.5, null);
    expect(frameNow(frame.id)).toMatchObject({
      actual_seconds: 42.5,
      answer: { seconds: 42.5, set_seconds: 42.5 },
      error: null,
      settings: { aperture: "", iso: "" },
      run: { purpose: "stopwatch", metered_seconds: 42.5 },
    });
    expect(core.error).not.toHaveBeenCalled();
    // The next one counts up again from nothing.
    rearm();
    expect(armed()?.plan.run.purpose).toBe("stopwatch");
    expect(armed()?.plan.answer.set_seconds).toBeLessThan(2);
  });
});

describe("afterwards", () => {
  it("another device stands ready with the same plan, what happened on the way left out", async () => {
    const frame = await opened(plan({ bias_stops: 0.05 }));
    await extend(frame, 1 / 3);
    await reread(frame, -1);
    const ran = frameNow(frame.id) as Frame;
    disarm();
    showEnded(ran);
    expect(armed()).toMatchObject({ finished: frame.id, question: null, plan: { answer: frame.answer } });
    expect(armed()?.plan.run.bias_stops).toBeCloseTo(0.05);
    expect(armed()?.plan.run.rereads).toEqual([]);
  });

  it("a dark frame is as long as its frame was, and comes back to it", async () => {
    const frame = await opened(plan({ stops_per_minute: 0.1 }));
    await end(frame, "hand", 190, null);
    darkFrame(frameNow(frame.id) as Frame);
    expect(armed()?.plan).toMatchObject({
      answer: { seconds: 190, set_seconds: 190, dial_mark: null },
      run: { purpose: "dark", stops_per_minute: null, metered_seconds: 190 },
    });
    rearm();
    expect(armed()).toMatchObject({ after: null, finished: null, plan: { answer: { seconds: 203 } } });
  });

  const between: [string, () => unknown][] = [
    ["a rehearsal", () => rehearse("6400", ANSWERED)],
    ["a trial", () => tryFirst(30)],
    ["a dark frame", () => darkFrame(sampleFrame())],
  ];
  it.each(between)("the light that was moving when it was armed goes on moving over %s", async (_, act) => {
    const question = { settings: { aperture: "9", iso: "64" } } as never;
    arm({ plan: plan({ moved_stops: 0.3, stops_per_minute: 0.1 }), question, list: null });
    await Promise.resolve(act());
    expect(armed()?.after).not.toBeNull();
    rearm();
    await open(new Date(Date.now() + 300_000));
    expect(openFrame()?.run?.moved_stops).toBeCloseTo(0.8, 2);
  });

  it("and over a frame that another device armed, from its opening on", async () => {
    const ago = new Date(Date.now() - 600_000).toISOString();
    showEnded(
      sampleFrame({ opened_at: ago, run: unopened({ metered_seconds: 203, moved_stops: 0.3, stops_per_minute: 0.1 }) }),
    );
    rearm();
    await open(new Date());
    expect(openFrame()?.run?.moved_stops).toBeCloseTo(1.3, 2);
  });

  it("what was asked for one plan does not come to another, nor beneath an open shutter", async () => {
    const question = { settings: { aperture: "9", iso: "64" } } as never;
    const queue = { way: "bracket", frames: [], at: 0, kept: 0, dropped: 0 } as const;
    const once = () => arm({ plan: plan(), question, list: null });
    once();
    const asked = armed() as Armed;
    const trying = tryFirst(30);
    arm({ plan: plan({ bias_stops: 1 }), question, list: null });
    await trying;
    takeSeries(asked, { ...queue, frames: [] });
    expect(armed()).toMatchObject({ plan: { run: { bias_stops: 1, purpose: "frame" } }, queue: null });
    once();
    const late = tryFirst(30);
    await open(NOW);
    await late;
    takeSeries(asked, { ...queue, frames: [] });
    expect(armed()).toMatchObject({ plan: { run: { purpose: "frame" } }, queue: null, after: null });
  });

  it.each([
    ["bracket", { seconds: 102, mark: null, stops: -1 }, { seconds: 102, bias: -0.95, purpose: "series" }],
    ["lucky", { seconds: 102, mark: null, stops: -1 }, { seconds: 203, bias: 0.05, purpose: "frame" }],
  ] as const)("a queue's frame of a %s has its own time, whatever was decided before", (way, next, expected) => {
    const queue = { way, frames: [next], at: 0, kept: 0, dropped: 0 };
    const { answer, run } = queued({ plan: plan({ bias_stops: 0.05 }), queue } as unknown as Armed);
    expect({ seconds: answer.seconds, bias: run.bias_stops, purpose: run.purpose }).toEqual(expected);
  });
});

describe("a watched light", () => {
  const watched = drawer({ name: "lightwatch", version: 1, check: (content) => content });
  const metered = new Date(NOW.getTime() - 90_000);
  const look = (second: number, stops: number) => ({ at: NOW.getTime() + second * 1000, stops, sd: 0.02, part: 0 });
  const seen = (looks: unknown[], part: object = {}) =>
    watched.set("watch", {
      by: "camera",
      sky: null,
      started: 0,
      alive: Date.now(),
      sight: "watching",
      why: null,
      looks,
      phone: null,
      frame: null,
      ...part,
    });

  it("counts from the metering on: delay and looks go into the frame that opens", async () => {
    await seen([look(-300, 5), look(-80, 0), look(-10, 0.5)]);
    arm({
      plan: plan({}, { reading: { step: "third", metered_at: metered.toISOString() } }),
      question: null,
      list: null,
    });
    await open(NOW);
    expect(openFrame()?.run).toMatchObject({
      delay_seconds: 90,
      looks: [
        { at_seconds: -80, stops: 0 },
        { at_seconds: -10, stops: 0.5 },
      ],
    });
    expect(watched.get("watch")).toMatchObject({ frame: { id: openFrame()?.id, speed: 1 } });
  });

  it("is no business of a frame that nobody metered, nor of a dark frame", async () => {
    await seen([look(-10, 0.5)]);
    arm({ plan: plan({}, { reading: { step: "third", metered_at: null } }), question: null, list: null });
    await open(NOW);
    expect(openFrame()?.run).toMatchObject({ delay_seconds: 0, looks: [] });
    expect(watched.get("watch")).toMatchObject({ frame: null });
  });

  it("known from the frame before has moved on by the opening", async () => {
    vi.setSystemTime(new Date(NOW.getTime() - 120_000));
    await seen([], { sight: "ended" });
    arm({
      plan: plan({ moved_stops: 1, stops_per_minute: -0.25, delay_seconds: 600 }),
      question: null,
      list: null,
    });
    vi.setSystemTime(NOW);
    await open(NOW);
    expect(openFrame()?.run).toMatchObject({ moved_stops: 0.5, delay_seconds: 720 });
    vi.useRealTimers();
  });

  it("ends with the frame, which keeps what was seen", async () => {
    await seen([look(-10, 0)]);
    arm({
      plan: plan({}, { reading: { step: "third", metered_at: metered.toISOString() } }),
      question: null,
      list: null,
    });
    await open(NOW);
    const frame = openFrame() as Frame;
    // What is seen on the way is the watch's until the end.
    await seen([look(-10, 0), look(100, 0.4)], { frame: { id: frame.id, opened: NOW.getTime(), speed: 1 } });
    await end(frame, "hand", 200, 203);
    expect(frameNow(frame.id)?.run?.looks.map(({ at_seconds }) => at_seconds)).toEqual([-10, 100]);
    expect(watched.get("watch")).toMatchObject({ sight: "ended" });
    // What was seen of one frame is no part of the plan that comes after it.
    showEnded(frameNow(frame.id) as Frame);
    disarm();
    showEnded(frameNow(frame.id) as Frame);
    expect(armed()?.plan.run.looks).toEqual([]);
  });
});
