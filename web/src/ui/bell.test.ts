import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

/** An audio clock that can be set, and remembers every tone that is queued on it. */
class FakeAudio {
  static allowed: "at once" | "never" | "refused" = "at once";
  static last: FakeAudio;
  state = "suspended";
  currentTime = 100;
  destination = {};
  tones: { from: number; to: number; pitch: number; stopped: boolean }[] = [];

  constructor() {
    FakeAudio.last = this;
  }
  resume(): Promise<void> {
    if (FakeAudio.allowed === "refused") return Promise.reject(new Error("not allowed"));
    // A start that is not allowed is often neither granted nor refused.
    if (FakeAudio.allowed === "never") return new Promise(() => undefined);
    this.state = "running";
    return Promise.resolve();
  }
  createOscillator() {
    const tone = { from: 0, to: Infinity, pitch: 0, stopped: false };
    const frequency = {
      set value(pitch: number) {
        tone.pitch = pitch;
      },
    };
    return {
      frequency,
      connect: (next: unknown) => next,
      start: (at: number) => {
        tone.from = at;
        this.tones.push(tone);
      },
      stop: (at?: number) => {
        if (at === undefined) tone.stopped = true;
        else tone.to = at;
      },
    };
  }
  createGain() {
    const gain = {
      value: 1,
      setValueAtTime: vi.fn(),
      linearRampToValueAtTime: vi.fn(),
      exponentialRampToValueAtTime: vi.fn(),
    };
    return { gain, connect: (next: unknown) => next };
  }
}

async function bell() {
  vi.resetModules();
  return import("./bell");
}

/** What will sound, in seconds from now. */
function heard() {
  const { tones, currentTime } = FakeAudio.last;
  return tones.filter((tone) => !tone.stopped).map((tone) => Math.round((tone.from - currentTime) * 100) / 100);
}

/** Whether anything asked for the audio at all. */
const wasMade = () => FakeAudio.last !== before;
let before: FakeAudio;
const activation = { hasBeenActive: true };

beforeEach(() => {
  before = FakeAudio.last;
  vi.useFakeTimers();
  FakeAudio.allowed = "at once";
  vi.stubGlobal("AudioContext", FakeAudio);
  vi.stubGlobal("navigator", { userActivation: activation });
  activation.hasBeenActive = true;
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe("the bell", () => {
  it("is queued ahead on the audio clock: a warning at ten seconds, ticks for the last three, the end", async () => {
    const { wake, queueBell } = await bell();
    expect(await wake()).toBe(true);
    queueBell(60);
    expect(heard()).toEqual([50, 50.3, 57, 58, 59, 60, 60.45, 60.9, 61.8, 62.25, 62.7]);
  });

  it.each([
    [20, [17, 18, 19, 20]],
    [2.5, [0.5, 1.5, 2.5]],
    [0.5, [0.5]],
    // What should have rung already rings now.
    [-3, [0]],
  ])("leaves out what a frame of %s s has no room for", async (seconds, first) => {
    const { wake, queueBell } = await bell();
    await wake();
    queueBell(seconds);
    expect(heard().slice(0, first.length)).toEqual(first);
    expect(heard()).toHaveLength(first.length + 5);
  });

  it("replaces the bell queued before, and is silent when told", async () => {
    const { wake, queueBell, silence } = await bell();
    await wake();
    queueBell(60);
    queueBell(30);
    expect(heard()[0]).toBe(20);
    expect(heard()).toHaveLength(11);
    silence();
    expect(heard()).toEqual([]);
  });

  it("rings beside what is queued, and taking that back leaves the ringing", async () => {
    const { wake, queueBell, ring, silence } = await bell();
    await wake();
    queueBell(60);
    ring();
    silence();
    expect(heard()).toEqual([0, 0.3, 0.6, 1.2, 1.5, 1.8]);
  });

  it.each(["never", "refused"] as const)(
    "says that it cannot sound where the start is answered with: %s",
    async (how) => {
      FakeAudio.allowed = how;
      const { wake, tick } = await bell();
      const woken = wake();
      await vi.advanceTimersByTimeAsync(1000);
      expect(await woken).toBe(false);
      // Once the person has pressed something, it may be allowed after all.
      FakeAudio.allowed = "at once";
      expect(await wake()).toBe(true);
      tick();
      expect(heard()).toEqual([0]);
    },
  );

  it("asks for no sound before the page was pressed: browsers refuse it and warn", async () => {
    activation.hasBeenActive = false;
    const { wake } = await bell();
    expect([await wake(), wasMade()]).toEqual([false, false]);
    activation.hasBeenActive = true;
    expect([await wake(), wasMade()]).toEqual([true, true]);
  });

  it("is mute without a word where nobody has woken it", async () => {
    const { queueBell, ring, silence } = await bell();
    queueBell(10);
    ring();
    silence();
    expect(wasMade()).toBe(false);
  });
});
