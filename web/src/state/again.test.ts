// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { againOf, correctedOf, taughtBy } from "./again";
import type { Frame } from "./frames";
import type { Armed } from "./armed";

const OPENED = "2027-04-17T04:30:00Z";
const LATER = Date.parse(OPENED) + 300_000;

function frame(more: object = {}, run: object = {}): Frame {
  return {
    state: "closed",
    opened_at: OPENED,
    error: { stops: 0.2 },
    review: { error_stops: 2 / 3, defects: [], tasted: [], because: null },
    run: { film: null, bias_stops: 0.4, correction_stops: -0.25, rereads: [], ...run },
    ...more,
  } as unknown as Frame;
}

function armed(more: object = {}, question: object | null = {}): Armed {
  return {
    plan: { run: { bias_stops: 0.1 } },
    question: question && { reading: { shutter: "1/40" }, chosen_seconds: null, light: null, ...question },
    after: null,
    queue: null,
    ...more,
  } as unknown as Armed;
}

describe("what a judged frame teaches the next one", () => {
  it("is how it came out, how late it closed, and what was decided on the way", () => {
    expect(againOf(armed(), frame())).toEqual({
      error_stops: 2 / 3,
      late_stops: 0.2,
      longer_stops: 0.4 - 0.1,
      earlier_stops: -0.25,
    });
  });

  it("is known of a frame from a file or by hand, too, which nobody ran here", () => {
    expect(taughtBy(frame({ run: null }))).toEqual({
      error_stops: 2 / 3,
      late_stops: 0.2,
      longer_stops: 0,
      earlier_stops: 0,
    });
  });

  it.each([
    ["nobody has judged it", armed(), frame({ review: null })],
    ["it was film, whose law bends it", armed(), frame({}, { film: { p: 1.3 } })],
    ["it was given up", armed(), frame({ state: "aborted" })],
    ["it was a rehearsal", armed({ after: {} }), frame()],
    ["a queue goes on", armed({ queue: { frames: [] } }), frame()],
  ])("is nothing while %s", (_, ready, ended) => {
    expect(againOf(ready, ended)).toBeNull();
  });
});

describe("a trial", () => {
  const trial = frame({ error: null }, { purpose: "trial", bias_stops: -2, correction_stops: 0 });
  const ready = armed({ after: { plan: {} }, plan: { run: { bias_stops: -2 } } }, { chosen_seconds: 30 });

  it("is judged though another frame comes after it, and its short time is part of what it teaches", () => {
    expect(againOf(ready, trial)).toEqual({
      error_stops: 2 / 3,
      late_stops: 0,
      longer_stops: -2,
      earlier_stops: 0,
    });
  });

  it("leaves the frame itself without a decided time", () => {
    const asked = correctedOf(ready, trial, { stops: 0, name: "Last frame right" }, LATER);
    expect(asked?.chosen_seconds).toBeNull();
  });
});

describe("the corrected sum", () => {
  const correction = { stops: -0.75, name: "Last frame ⅔ stop bright" };

  it("carries its correction, and a decided time as much shorter as the frame wanted", () => {
    const asked = correctedOf(armed({}, { chosen_seconds: 60 }), frame(), correction, LATER);
    expect(asked?.correction).toEqual(correction);
    // A quarter of a stop of it had been taken off already.
    expect(asked?.chosen_seconds).toBeCloseTo(60 * 2 ** -0.5);
  });

  it.each([
    ["steady light stays steady", null, [], null],
    [
      "light that moves was metered five minutes longer ago by now",
      { stops_per_minute: 0.1, rate_sd: 0.02, delay_seconds: 60 },
      [],
      { stops_per_minute: 0.1, rate_sd: 0.02, delay_seconds: 360 },
    ],
    [
      "what was read on the way says how it moves",
      { stops_per_minute: 0.1, rate_sd: 0.02, delay_seconds: 60 },
      [{ at_seconds: 120, stops: -0.6 }],
      { stops_per_minute: -0.3, rate_sd: 0.05, delay_seconds: 300 },
    ],
    [
      "what had been seen to move by then has moved on",
      { stops_per_minute: 0.1, rate_sd: 0.02, delay_seconds: 60, moved_stops: 1, moved_sd: 0 },
      [],
      { stops_per_minute: 0.1, rate_sd: 0.02, delay_seconds: 360, moved_stops: 1.5, moved_sd: 0.1 },
    ],
  ])("%s", (_, light, rereads, expected) => {
    const asked = correctedOf(armed({}, { light }), frame({}, { rereads }), correction, LATER);
    expect(asked?.light ?? null).toEqual(
      expected === null
        ? null
        : {
            moved_stops: null,
            moved_sd: 0,
            ...expected,
            stops_per_minute: expect.closeTo(expected.stops_per_minute) as number,
          },
    );
  });

  it("is none for a time that nobody worked out", () => {
    expect(correctedOf(armed({}, null), frame(), correction, LATER)).toBeNull();
  });
});
