// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { exposureOf, holdTime, rateOf, steerOf } from "./asks";
import { bench, type Bench, fromStarter, hasAperture, lay, type Move } from "./bench";
import type { KitItem } from "./kit";

const NOW = new Date("2027-04-17T04:30:00Z");
const glass = (id: string, stops: number, more: object = {}) =>
  ({
    id,
    sort: "glass",
    name: `Slot ND ${stops}`,
    note: "",
    retired: false,
    facts: { members: [] },
    strength: { kind: "solid", stops, offset: null, offset_sd: 0.17, low: stops, high: stops, ...more },
  }) as unknown as KitItem;
const KIT: KitItem[] = [
  ...Array.from({ length: 10 }, (_, place) => glass(`g${place}`, place + 1)),
  glass("turn", 3.5, { kind: "variable", offset: 0, offset_sd: 1.5, low: 2, high: 5 }),
];
const bag = lay(fromStarter({ reading: { shutter: "1/40", aperture: "9", iso: "64" } }), KIT).bag;
const START = bench(
  fromStarter({ reading: { shutter: "1/40", aperture: "9", iso: "64" } }),
  { do: "settle", glass: bag },
  NOW,
);
const after = (...moves: Move[]): Bench => moves.reduce((state, move) => bench(state, move, NOW, bag), START);
const toggle = (id: string): Move => ({ do: "toggle", id });
const stops = (state: Bench) => lay(state, KIT).stack.map((piece) => piece.stops);

describe("the bench", () => {
  it("meets a new kit with one strong solid glass, and keeps what it knows of an old one", () => {
    expect(START.on).toEqual(["g8"]);
    const other = [{ ...bag[0], id: "other", stops: 10 }] as typeof bag;
    expect(bench(START, { do: "settle", glass: other }, NOW).on).toEqual(["other"]);
    expect(bench(after({ do: "bare" }), { do: "settle", glass: other }, NOW).on).toEqual([]);
  });

  it("puts glass on in the order of the hands and takes it off again", () => {
    const two = after(toggle("g3"), toggle("g0"));
    expect(stops(two)).toEqual([9, 4, 1]);
    expect(bench(two, toggle("g8"), NOW).on).toEqual(["g3", "g0"]);
    expect(after({ do: "bare" }).on).toEqual([]);
  });

  it("keeps graduated filters outermost, whichever goes on first", () => {
    const grad = { ...bag[0], id: "grad", kind: "graduated" } as (typeof bag)[number];
    const played = (...ids: string[]) =>
      ids.map(toggle).reduce((state, move) => bench(state, move, NOW, [...bag, grad]), after({ do: "bare" }));
    expect(played("g3", "grad", "g0").on).toEqual(["g3", "g0", "grad"]);
    expect(played("grad", "g3").on).toEqual(["g3", "grad"]);
  });

  it("puts a named stack on in place of its members, and a member in place of the stack", () => {
    const pair = { ...bag[0], id: "pair", members: ["g8", "g3"] } as (typeof bag)[number];
    const played = (...moves: Move[]) => moves.reduce((state, move) => bench(state, move, NOW, [...bag, pair]), START);
    expect(played(toggle("g3"), toggle("g0"), { do: "together", id: "pair", members: ["g8", "g3"] }).on).toEqual([
      "g0",
      "pair",
    ]);
    expect(played(toggle("g0"), toggle("pair")).on).toEqual(["g0", "pair"]);
    expect(played(toggle("pair"), toggle("g3")).on).toEqual(["g3"]);
    expect(played(toggle("pair"), toggle("pair")).on).toEqual([]);
  });

  it.each([
    ["2.8", true],
    ["2.5", false],
    ["22", true],
    ["25", false],
  ])("offers f/%s of a lens from f/2.8 to f/22: %s", (mark, has) => {
    const lens = { facts: { aperture_widest: 2.8, aperture_smallest: 22 } };
    const laid = lay(START, KIT);
    expect(hasAperture({ ...laid, lens } as never, mark)).toBe(has);
    expect(hasAperture({ ...laid, lens, fixedAperture: "8" } as never, mark)).toBe(false);
    expect(hasAperture(laid, mark)).toBe(true);
  });

  it("never holds more than eight glasses", () => {
    expect(after(...["g0", "g1", "g2", "g3", "g4", "g5", "g6", "g7", "g9"].map(toggle)).on).toHaveLength(8);
  });

  describe("what was on at the reading", () => {
    const metered: Move = { do: "set", change: { shutter: "1/8" } };
    const later = (minutes: number) => new Date(NOW.getTime() + minutes * 60_000);
    const through = ({ through: then }: Bench) => then.map(({ id, turn }) => [id, turn]);
    const was = (id: string): Move => ({ do: "toggleThrough", id });

    it("is said in one tap, whatever is on now, and stays when that is exchanged", () => {
      const then = after(was("g2"), was("g5"), toggle("g2"), metered);
      expect([then.on, through(then)]).toEqual([["g8", "g2"], [["g2", null]]]);
      const off = bench(then, toggle("g2"), NOW, bag);
      expect([off.on, through(off)]).toEqual([["g8"], [["g2", null]]]);
      expect(exposureOf(lay(off, KIT))).toMatchObject({
        reading: { through: [{ id: "g2", stops: 3, name: "Slot ND 3" }] },
        stack: [{ id: "g8", stops: 9 }],
      });
      expect(through(bench(off, was("g2"), NOW, bag))).toEqual([]);
      expect(through(bench(off, { do: "bare" }, NOW, bag))).toEqual([["g2", null]]);
    });

    it("is every variable filter that is on, where it stood; turned later, the difference counts", () => {
      const ring = after({ do: "bare" }, toggle("turn"));
      // Put on and not yet turned, it may still be anything.
      expect(exposureOf(lay(ring, KIT)).stack).toMatchObject([{ stops: 2, stops_max: 5 }]);
      const read = bench(ring, metered, NOW, bag);
      expect([through(read), read.turned]).toEqual([[["turn", 2]], { turn: 2 }]);
      const turned = bench(read, { do: "set", change: { turned: { turn: 4 } } }, NOW, bag);
      expect(exposureOf(lay(turned, KIT))).toMatchObject({
        reading: { through: [{ id: "turn", stops: 2 }] },
        stack: [{ id: "turn", stops: 4 }],
      });
      expect(through(bench(turned, was("turn"), NOW, bag))).toEqual([]);
      // Dialled within the minute it is the same reading; a later one sees through what is on then.
      expect(through(bench(turned, { do: "set", change: { shutter: "1/10" } }, later(1), bag))).toEqual([["turn", 2]]);
      expect(through(bench(turned, { do: "set", change: { shutter: "1/10" } }, later(3), bag))).toEqual([["turn", 4]]);
      expect(through(bench(turned, { do: "meterAgain" }, later(1), bag))).toEqual([["turn", 4]]);
      expect(through(bench(turned, { do: "set", change: { meter: "hand", ev100: 9 } }, later(3), bag))).toEqual([]);
    });

    it("is carried over to the next reading while it stays on, and asked of anew", () => {
      const pol = after(was("g1"), toggle("g1"), metered, { do: "saidThrough", id: "g4" });
      const next = bench(pol, { do: "set", change: { shutter: "1/4" } }, later(5), bag);
      expect([through(next), next.throughSaid]).toEqual([[["g1", null]], []]);
      expect(next.before.map((each) => each.through.map(({ id }) => id))).toEqual([["g1"]]);
      expect(through(bench(bench(pol, toggle("g1"), NOW, bag), { do: "meterAgain" }, later(5), bag))).toEqual([]);
    });

    it("outlives the filter's leaving the bag", () => {
      const then = after(was("g2"));
      expect(
        lay(
          then,
          KIT.filter(({ id }) => id !== "g2"),
        ).through,
      ).toMatchObject([{ id: "g2", name: "Slot ND 3", stops: 3 }]);
    });
  });

  it("takes readings of one scene together when one says so, and asks where nobody did", () => {
    const at = (minutes: number) => new Date(NOW.getTime() + minutes * 60_000);
    const dial = (shutter: string): Move => ({ do: "set", change: { shutter } });
    const played = (...moves: [number, Move][]) =>
      moves.reduce((state, [minutes, move]) => bench(state, move, at(minutes), bag), START);
    const shutters = (state: Bench) => [state.before, state.earlier].map((list) => list.map((each) => each.shutter));
    // Metered again, then dialled: the first reading is an earlier one; a correction within the minute is none.
    const again: [number, Move][] = [
      [0, dial("1/50")],
      [0.2, dial("1/60")],
      [4, { do: "meterAgain" }],
      [4.3, dial("1/30")],
    ];
    expect(shutters(played(...again))).toEqual([[], ["1/60"]]);
    expect(rateOf(lay(played(...again), KIT), at(5).getTime(), null)).toMatchObject({
      readings: [
        { at: at(0.2).toISOString(), reading: { shutter: "1/60" } },
        { at: at(4.3).toISOString(), reading: { shutter: "1/30" } },
      ],
      at: at(5).toISOString(),
    });
    // Only dialled: whether it is the same scene is asked, and until it is said nothing is known of the light.
    const other: [number, Move][] = [
      [0, dial("1/50")],
      [6, dial("1/25")],
    ];
    expect(shutters(played(...other))).toEqual([["1/50"], []]);
    expect(rateOf(lay(played(...other), KIT), at(6).getTime(), null)).toBeNull();
    expect(shutters(played(...other, [6.2, { do: "sameScene" }]))).toEqual([[], ["1/50"]]);
    // What was on while metering was on for the readings of that scene before; those of an hour ago say nothing.
    const seen = played(...again, [5, { do: "toggleThrough", id: "g1" }]);
    expect(rateOf(lay(seen, KIT), at(5).getTime(), null)?.readings.map(({ reading }) => reading.through)).toMatchObject(
      [[{ id: "g1" }], [{ id: "g1" }]],
    );
    expect(shutters(played(...other, [70, dial("1/8")]))).toEqual([[], []]);
  });

  it("dates the reading when the reading changes, and only then", () => {
    expect(after({ do: "set", change: { shutter: "1/50" } }).meteredAt).toBe(NOW.toISOString());
    expect(after({ do: "set", change: { shotAperture: "11" } }).meteredAt).toBeNull();
    expect(after(toggle("g0")).meteredAt).toBeNull();
  });

  it("lets go of a forecast and of its minute when somebody meters", () => {
    const expected: Move = {
      do: "set",
      change: { shutter: "0.6 s", meteredAt: null, expectedSd: 0.6, lightAt: "06:31" },
    };
    const state = after(expected);
    expect([state.meteredAt, state.expectedSd, state.lightAt]).toEqual([null, 0.6, "06:31"]);
    expect(exposureOf(lay(state, KIT)).expected_sd).toBe(0.6);
    expect(after(expected, { do: "set", change: { shotAperture: "11" } }).expectedSd).toBe(0.6);
    for (const metered of [{ do: "set", change: { shutter: "1/2" } }, { do: "meterAgain" }] satisfies Move[]) {
      const now = after(expected, metered);
      expect([now.meteredAt, now.expectedSd, now.lightAt]).toEqual([NOW.toISOString(), null, null]);
      expect([now.earlier, now.before]).toEqual([[], []]);
    }
    // A reading is of now, and so is the same scene metered again.
    const planned = { do: "set", change: { lightAt: "06:31" } } as const;
    expect(after(planned, { do: "set", change: { shutter: "1/2" } }).lightAt).toBeNull();
    expect(after(planned, { do: "sameScene" }).lightAt).toBeNull();
    expect(after(planned, { do: "toggle", id: "x" }).lightAt).toBe("06:31");
  });

  it("turns a variable glass within its range and no further", () => {
    const turned = (to: number) =>
      stops(after({ do: "bare" }, toggle("turn"), { do: "set", change: { turned: { turn: to } } }));
    expect([turned(4), turned(9), turned(0)]).toEqual([[4], [5], [2]]);
  });

  it("asks with a camera's reading or a hand meter's, never both", () => {
    const asked = exposureOf(lay(after({ do: "set", change: { shotIso: "100" } }), KIT));
    expect(asked.reading).toEqual({ shutter: "1/40", aperture: "9", iso: "64", step: "third", through: [] });
    expect(asked.settings).toEqual({ aperture: "9", iso: "100" });
    const hand = exposureOf(lay(START, KIT), { meter: "hand", ev100: 9.4 });
    expect(hand.reading).toEqual({ ev100: 9.4, step: "third", through: [] });
    expect(START.meter).toBe("camera");
  });

  it("uses a time that was decided until the sum it was decided for changes", () => {
    const decided = bench(START, { do: "set", change: holdTime(300) }, NOW);
    expect(steerOf(lay(decided, KIT))).toBeNull();
    expect(exposureOf(lay(decided, KIT)).chosen_seconds).toBe(300);
    // Where the camera points, the looks wished for, the outing's light: none of these is another sum.
    const turned = bench(decided, { do: "set", change: { lightAt: "06:00" } }, NOW);
    expect(turned.targetSeconds).toBe(300);
    const changes: Move[] = [
      { do: "toggle", id: "g5" },
      { do: "toggleThrough", id: "g5" },
      { do: "bare" },
      { do: "set", change: { shutter: "1/60" } },
      { do: "set", change: { shotIso: "100" } },
    ];
    for (const change of changes) expect(bench(decided, change, NOW).targetSeconds, change.do).toBeNull();
    // What something else is worked out for stays: that is the point of it.
    const wanted = { ...decided, floating: "stack" as const };
    for (const change of changes) expect(bench(wanted, change, NOW).targetSeconds, change.do).toBe(300);
  });

  it("lets exactly one thing float, and asks for that one", () => {
    const laid = lay(START, KIT);
    expect(steerOf(laid)).toBeNull();
    const held = lay(bench(START, { do: "set", change: { floating: "aperture", targetSeconds: 30 } }, NOW), KIT);
    expect(steerOf(held)).toMatchObject({ float: "aperture", target_seconds: 30, stack: [{ stops: 9 }] });
    // The time that is held is exposed; while filters or the reading are sought, what lies there has its own.
    expect(exposureOf(held).chosen_seconds).toBe(30);
    const stack = lay({ ...held.bench, floating: "stack" }, KIT);
    expect(steerOf(stack)).toMatchObject({ float: "stack", stack: [] });
    expect(exposureOf(stack).chosen_seconds).toBeNull();
    const took = after({ do: "take", on: ["g5"], aperture: "8", iso: "64", turned: {} });
    expect([took.on, took.shotAperture, took.floating]).toEqual([["g5"], "8", "time"]);
  });
});

describe("what is meant otherwise than the meter says", () => {
  const taught = (because: "scene" | "filter" | "taste" | null): Move => ({
    do: "set",
    change: { correction: { stops: -2 / 3, name: "Last frame ⅔ stop bright", because } },
  });
  const meter: Move = { do: "set", change: { shutter: "1/60" } };

  it.each([
    ["the metering", "scene", meter, false],
    ["the metering", "scene", toggle("g3"), true],
    ["nothing said", null, { do: "meterAgain" }, false],
    ["the filter", "filter", meter, true],
    ["the filter", "filter", toggle("g3"), false],
    ["the filter", "filter", { do: "bare" }, false],
    ["taste", "taste", meter, true],
    ["taste", "taste", toggle("g3"), true],
  ] as const)("a correction for %s stays only as long as what it is for (%s)", (_, because, move, stays) => {
    expect(after(taught(because), move).correction !== null).toBe(stays);
  });

  it("goes into the sum, and into whatever is worked out instead of the time", () => {
    const state = after(taught("taste"), { do: "set", change: { purposeThirds: 1, monochrome: true } });
    expect(exposureOf(lay(state, KIT))).toMatchObject({
      correction: { stops: -2 / 3, name: "Last frame ⅔ stop bright" },
      purpose_stops: 1 / 3,
      monochrome: true,
    });
    const held = lay({ ...state, floating: "aperture", targetSeconds: 30 }, KIT);
    expect(steerOf(held)?.wished_stops).toBeCloseTo(-1 / 3);
  });
});
