// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import type { Glass } from "./bench";
import { placeInLog } from "./frames";
import { sampleFrame } from "./frame.test.data";
import { benchOf } from "./fromFrame";
import { unopened } from "./running";

const glass = (id: string, kind = "solid") => ({ id, kind, stops: 9 }) as unknown as Glass;
const BAG = [glass("nine"), glass("turn", "variable"), glass("four")];
const FRAME = sampleFrame({
  stack: [
    { id: "turn", name: "Ring VND", stops: 3.5, in_reading: true, kind: "variable" },
    { id: "nine", name: "Slot ND 9", stops: 9, in_reading: false },
    { id: "sold", name: "Slot ND 6", stops: 6, in_reading: false },
  ],
  conditions: { monochrome: true },
  run: unopened({ metered_seconds: 60, purpose_stops: 2 / 3, correction_stops: 0.5, correction_for: "taste" }),
  review: { error_stops: 1 / 3, defects: [], tasted: [], because: "filter" },
});

describe("a frame set up again", () => {
  const correction = { stops: 1 / 6, name: "Last frame ⅓ stop bright" };

  it("stands as it stood, what is not in the bag any more left out", () => {
    expect(benchOf(FRAME, BAG, null)).toMatchObject({
      shutter: "1/40",
      shotAperture: "9",
      on: ["turn", "nine"],
      through: [{ id: "turn", turn: 3.5, glass: { name: "Ring VND", kind: "variable" } }],
      turned: { turn: 3.5 },
      purposeThirds: 2,
      monochrome: true,
      targetSeconds: null,
      correction: { stops: 0.5, because: "taste" },
    });
  });

  it("was read through what it was read through, on its lens or not", () => {
    const off = { id: "sold", name: "Slot ND 6", stops: 6, offset: 0.2, in_reading: false, kind: "solid" } as const;
    const exchanged = sampleFrame({ ...FRAME, reading: { ...FRAME.reading, through: [off] } });
    expect(benchOf(exchanged, BAG, null).through).toEqual([
      { id: "sold", turn: null, glass: { name: "Slot ND 6", kind: "solid", stops: 6, offset: 0.2, offset_sd: 0.17 } },
    ]);
  });

  it("is corrected by how it came out, for the reason that was given", () => {
    expect(benchOf(FRAME, BAG, correction).correction).toEqual({ ...correction, because: "filter" });
    expect(benchOf(sampleFrame(), BAG, null).correction).toBeNull();
  });
});

describe("the order of the log", () => {
  const ago = (days: number) => new Date(Date.now() - days * 86_400_000).toISOString();

  it("has the running one first, then the newest, and a scenario's days to come last", () => {
    const frames = { coming: ago(-200), old: ago(30), new: ago(0.1), running: ago(60) };
    const placed = Object.entries(frames)
      .map(([name, opened_at]) => ({
        name,
        place: placeInLog({ state: name === "running" ? "open" : "closed", opened_at }),
      }))
      .toSorted((a, b) => (a.place < b.place ? 1 : -1));
    expect(placed.map(({ name }) => name)).toEqual(["running", "new", "old", "coming"]);
  });
});
