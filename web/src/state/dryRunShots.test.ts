// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import type { DryRun } from "./dryRuns";
import { shotsOf } from "./dryRunShots";
import { sampleFrame } from "./frame.test.data";
import type { KitItem } from "./kit";
import { unopened } from "./running";

const glass = (id: string, stops: number, members: string[] = []) =>
  ({ id, sort: "glass", facts: { members }, strength: { stops } }) as unknown as KitItem;
const KIT = [glass("three", 3), glass("six", 6), glass("both", 9, ["three", "six"])];
const RUN = {
  begun: { scenario: { kit: [{ id: "three" }, { id: "six" }] } },
  opened: {
    a: { framing: 1, prepared: ["tripod", "remote"] },
    b: { framing: 0, prepared: [] },
    open: { framing: 0, prepared: [] },
  },
} as unknown as DryRun;
const FRAME = sampleFrame({
  reading: { shutter: "1/40", aperture: "9", iso: "64", step: "third", metered_at: "2027-04-17T04:30:00Z" },
  stack: [{ id: "six", name: "Slot ND 6", stops: 6, offset: 0.2, in_reading: false }],
  events: [{ id: "e", at: "2027-04-17T04:35:03Z", kind: "aimed", seconds: 190 }],
  run: unopened({ metered_seconds: 180, correction_stops: 0.5, purpose_stops: -1 / 3, bias_stops: 0.1 }),
});

describe("a frame of a dry run", () => {
  it("is developed as it was reckoned, aimed at and prepared", () => {
    expect(shotsOf([FRAME], RUN, KIT)).toEqual([
      {
        framing: 1,
        opened_at: "2027-04-17T04:31:40Z",
        seconds: 203,
        aimed_seconds: 190,
        metered_seconds: 180,
        metered_at: "2027-04-17T04:30:00Z",
        aperture: "9",
        iso: "64",
        stack: [{ id: "six", stops: 6.2, in_reading: false }],
        correction_stops: 0.5,
        purpose_stops: -1 / 3,
        decided_stops: 0.1,
        prepared: ["tripod", "remote"],
        purpose: "frame",
      },
    ]);
  });

  it("counts in the order it was taken, without what was given up, still runs or is another's", () => {
    const frames = [
      FRAME,
      sampleFrame({ id: "b", opened_at: "2027-04-17T04:10:00Z" }),
      sampleFrame({ id: "open", state: "open", actual_seconds: null }),
      sampleFrame({ id: "a", state: "aborted" }),
      sampleFrame({ id: "somebody's" }),
    ];
    expect(shotsOf(frames, RUN, KIT).map(({ framing }) => framing)).toEqual([0, 1]);
  });

  it("is none of it through a filter that was brought in meanwhile", () => {
    const foreign = { id: "new", name: "Slot ND 9", stops: 9, in_reading: false };
    expect(shotsOf([{ ...FRAME, stack: [...FRAME.stack, foreign] }], RUN, KIT)).toEqual([]);
  });

  it.each([
    ["trial", "first_look"],
    ["rehearsal", "first_look"],
    ["dark", "dark"],
    ["series", "frame"],
  ] as const)("of the purpose %s is a %s", (purpose, told) => {
    const frame = { ...FRAME, run: unopened({ metered_seconds: 180, purpose }) };
    expect(shotsOf([frame], RUN, KIT)[0]?.purpose).toBe(told);
  });

  it("takes a named stack apart, what it measures beside its members with the first", () => {
    const frame = { ...FRAME, stack: [{ id: "both", name: "Both", stops: 9, offset: 0.3, in_reading: true }] };
    expect(shotsOf([frame], RUN, KIT)[0]?.stack).toEqual([
      { id: "three", stops: expect.closeTo(3.3) as number, in_reading: true },
      { id: "six", stops: 6, in_reading: true },
    ]);
  });
});
