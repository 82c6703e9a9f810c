// @vitest-environment happy-dom
import { expect, test } from "vitest";
import type { Frame } from "./frames";
import type { ExposureEnd } from "../questions/exposureEnd";
import { aimedAt, exposureEndOf, longerBy, standing } from "./exposureEnd";

const track = [
  { seconds: 0, gathered: 0, stops: -40 },
  { seconds: 100, gathered: 0.5, stops: -1 },
  { seconds: 300, gathered: 1, stops: 0 },
];

function closing(more: Partial<ExposureEnd> = {}): ExposureEnd {
  return { close_after_seconds: 300, track, ways_out: [], ...more } as ExposureEnd;
}

function frame(run: Partial<NonNullable<Frame["run"]>> | null, mark: string | null = null): Frame {
  const whole = run && { rereads: [], bias_stops: 0, stops_per_minute: null, purpose: "frame", ...run };
  return { answer: { set_seconds: 240, dial_mark: mark }, run: whole } as unknown as Frame;
}

test.each([
  [0, 0],
  [50, 0.25],
  [100, 0.5],
  [200, 0.75],
  [500, 1.5],
])("after %i s the light stands at %d", (seconds, gathered) => {
  expect(standing(closing(), seconds)?.gathered).toBeCloseTo(gathered);
});

test.each([
  // Steady light: a doubling of the time is a stop, from the first second on and long past the end.
  [4, -7.907],
  [300, -1.678],
  [960, 0],
  [7680, 3],
])("closed after %i s the frame is %d stops off", (seconds, stops) => {
  const steady = [0, 15, 60, 240, 960, 3840].map((at) => ({
    seconds: at,
    gathered: at / 960,
    stops: at === 0 ? -40 : Math.log2(at / 960),
  }));
  expect(standing(closing({ track: steady }), seconds)?.stops).toBeCloseTo(stops, 2);
});

test("nothing is known without the core's track", () => {
  expect(standing(undefined, 10)).toBeNull();
});

const aims: [string, Frame, number | null][] = [
  ["steady light keeps the plan", frame({}), 240],
  ["a known rate follows the light", frame({ stops_per_minute: -0.1 }), 300],
  ["a reading on the way follows the light", frame({ rereads: [{ at_seconds: 60, stops: -1 }] }), 300],
  ["longer or shorter follows the core", frame({ bias_stops: 1 / 3 }), 300],
  ["the dial closes itself", frame({ stops_per_minute: -0.1 }, "15"), 240],
  ["a dark frame is as long as its frame", frame({ stops_per_minute: -0.1, purpose: "dark" }), 240],
  ["a frame of the time before runs keeps its plan", frame(null), 240],
];
test.each(aims)("%s", (_, run, aimed) => {
  expect(aimedAt(run, closing())).toBe(aimed);
});

test("light that was watched is followed", () => {
  expect(aimedAt(frame({}), closing({ light: {} as NonNullable<ExposureEnd["light"]> }))).toBe(300);
});

test("a frame that never fills has no end, and before the core has answered the plan stands", () => {
  const falling = frame({ stops_per_minute: -0.5 });
  expect(aimedAt(falling, closing({ close_after_seconds: null }))).toBeNull();
  expect(aimedAt(falling, undefined)).toBe(240);
});

test("a stopwatch aims at nothing and asks nothing", () => {
  const watch = frame({ purpose: "stopwatch" });
  expect(aimedAt(watch, undefined)).toBeNull();
  expect(exposureEndOf(watch)).toBeNull();
});

test("longer and shorter count by what happened, not by what was decided before", () => {
  const event = (kind: string, seconds: number) => ({ id: kind, at: "", kind, seconds });
  const events = [
    event("opened", 0),
    event("extended", 1 / 3),
    event("reread", -1),
    event("cut", -1 / 3),
    event("extended", 1 / 3),
  ];
  expect(longerBy({ events } as unknown as Frame)).toBeCloseTo(1 / 3);
  expect(longerBy({ events: [] })).toBe(0);
});

test.each([
  [241, 240],
  [300, 300],
])("a plan in moving light that would close after %i s closes after %i s", (after, closes) => {
  expect(aimedAt(frame({ stops_per_minute: 0.1 }), closing({ close_after_seconds: after }))).toBe(closes);
});
