import { describe, expect, it } from "vitest";
import { type Spoken, spokenAt } from "./spokenClock";

/** All that is said of a frame of so many seconds, looked at so often. */
function saidOf(total: number | null, until: number, every = 1): [number, Spoken][] {
  const said: [number, Spoken][] = [];
  let before: { left: number | null; elapsed: number } | null = null;
  for (let elapsed = 0; elapsed <= until; elapsed += every) {
    const left = total === null ? null : total - elapsed;
    const spoken = spokenAt(left, elapsed, before);
    if (spoken) said.push([elapsed, spoken]);
    before = { left, elapsed };
  }
  return said;
}

describe("the spoken clock", () => {
  it("says the opening, each minute to go, the last ten seconds and the end, each once", () => {
    const counts = Array.from({ length: 10 }, (_, place) => [115 + place, { seconds: 10 - place }]);
    expect(saidOf(125, 140)).toEqual([
      [0, { open: true }],
      [5, { minutes: 2 }],
      [65, { minutes: 1 }],
      ...counts,
      [125, { close: true }],
    ]);
  });

  it("counts the minutes gone where there is no end", () => {
    expect(saidOf(null, 130)).toEqual([
      [0, { open: true }],
      [60, { minutes: 1 }],
      [120, { minutes: 2 }],
    ]);
  });

  it("says nothing late of what a sleeping page has missed", () => {
    expect(saidOf(100, 300, 90)).toEqual([
      [0, { open: true }],
      [90, { seconds: 10 }],
      [180, { close: true }],
    ]);
    expect(spokenAt(50, 30, null)).toBeNull();
    // Made longer on the way: nothing is said twice by it.
    expect(spokenAt(80, 31, { left: 50, elapsed: 30 })).toBeNull();
  });
});
