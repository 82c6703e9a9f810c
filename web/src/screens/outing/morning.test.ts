import { expect, test } from "vitest";
import type { Light, Swaps } from "../../questions/light";
import { closer, layersOf, meteredOver, morningAxis, nextOfPlan, partedBySettings, stretchAt } from "./morning";

const MINUTE = 60_000;
const BEGIN = Date.parse("2027-04-17T03:00:00Z");
const at = (minute: number) => new Date(BEGIN + minute * MINUTE).toISOString();

/** Light that rises by half a stop a minute from EV 0. */
const light = {
  points: Array.from({ length: 21 }, (_, minute) => ({ at: at(minute), ev100: minute / 2, sd_stops: 0.2 })),
} as unknown as Light;

type Stretch = Swaps["stretches"][number];
const stretch = (from: number, to: number, level: number, stops: number, glass: string[], turns: number[] = []) =>
  ({
    start: at(from),
    end: at(to),
    glass,
    metered: Array.from({ length: to - from }, (_, step) => level / 2 ** ((from + step) / 2)),
    seconds: Array.from(
      { length: to - from },
      (_, step) => (level / 2 ** ((from + step) / 2)) * 2 ** (stops + (turns[step] ?? 0)),
    ),
    turns,
  }) as unknown as Stretch;
const nothing = { start: at(0), end: at(2), glass: null, metered: [], seconds: [], turns: [] } as unknown as Stretch;
// At f/8, then at f/11: a stop more.
const plan = {
  stretches: [nothing, stretch(2, 10, 64, 6, ["six"]), stretch(10, 20, 128, 9, ["nine", "turn"], [0, 1, 2])],
  changes: 1,
};

test("the meter is read at the settings of each stretch, before the first at those of the first", () => {
  const minutes = meteredOver(light, plan, null);
  expect(minutes[0]?.metered).toBeCloseTo(64);
  expect(minutes[9]?.metered).toBeCloseTo(64 / 2 ** 4.5);
  expect(minutes[10]?.metered).toBeCloseTo(128 / 2 ** 5);
  // Where the settings change nothing is drawn across.
  expect(partedBySettings(minutes).map((part) => part.length)).toEqual([10, 11]);
  // Without a plan it is the bench's, and without either it is nothing.
  expect(meteredOver(light, undefined, 32)[4]?.metered).toBeCloseTo(8);
  expect(meteredOver(light, undefined, null)).toEqual([]);
});

test("the filters of a stretch stand on the meter and end in its time, each as thick as it is strong", () => {
  const strengths: Record<string, { low: number; high: number }> = {
    nine: { low: 9, high: 9 },
    turn: { low: 0, high: 3 },
  };
  const [last] = plan.stretches.slice(-1);
  const [nine, turn] = layersOf(last as Stretch, (id) => strengths[id]);
  const [metered, seconds] = [last?.metered ?? [], last?.seconds ?? []];
  expect(nine?.edges.map(({ from }) => from)[0]).toBeCloseTo(metered[0] ?? 0);
  for (const [step, whole] of seconds.entries()) {
    expect(turn?.edges[step]?.to).toBeCloseTo(whole, 5);
    expect(Math.log2((nine?.edges[step]?.to ?? 1) / (metered[step] ?? 1))).toBeCloseTo(9, 5);
  }
  // It lasts to its end.
  expect(nine?.edges.at(-1)?.ms).toBe(BEGIN + 20 * MINUTE);
  expect(layersOf(nothing, () => undefined)).toEqual([]);
});

test("the axis holds the plan and the aim, and something where neither is", () => {
  const minutes = meteredOver(light, plan, null);
  const aim = { from: 30, to: 4000 };
  const [low, high] = morningAxis(minutes, plan, aim, BEGIN + 20 * MINUTE, 10, 300).ends;
  expect(low).toBeLessThan(64 / 2 ** 4.5);
  expect(high).toBeGreaterThan(4000);
  // Whoever has to leave before it begins sees an axis all the same.
  expect(morningAxis(minutes, undefined, null, BEGIN - MINUTE, 10, 300).ends.every(Number.isFinite)).toBe(true);
});

test("what comes next is the first frame, then the next change, then nothing", () => {
  expect(nextOfPlan(plan, BEGIN)).toEqual({ at: BEGIN + 2 * MINUTE, kind: "first" });
  expect(nextOfPlan(plan, BEGIN + 5 * MINUTE)).toEqual({ at: BEGIN + 10 * MINUTE, kind: "change" });
  expect(nextOfPlan(plan, BEGIN + 15 * MINUTE)).toBeNull();
  // Of a morning that is over one asks when it began.
  expect(nextOfPlan(plan, BEGIN + 25 * MINUTE)).toEqual({ at: BEGIN + 2 * MINUTE, kind: "first" });
  expect(nextOfPlan(undefined, BEGIN)).toBeNull();
  expect(stretchAt(plan, BEGIN + 10 * MINUTE)?.start).toBe(at(10));
  expect(stretchAt(plan, BEGIN + 20 * MINUTE)?.start).toBe(at(10));
});

test.each([
  ["about the middle", [0, 200], 100, [50, 150]],
  ["at an end it stays inside", [0, 200], 0, [0, 100]],
  ["never closer than a quarter of an hour", [90, 110], 100, [92.5, 107.5]],
] as const)("closer %s", (_, [from, to], about, [low, high]) => {
  const [left, right] = closer([from * MINUTE, to * MINUTE], about * MINUTE, [0, 200 * MINUTE]);
  expect([left / MINUTE, right / MINUTE]).toEqual([low, high]);
});
