import { describe, expect, it } from "vitest";
import { bench, type Bench, fromStarter, type Glass, type Move, questionOf, stackOf } from "./state";

const NOW = new Date("2027-04-17T04:30:00Z");
const glass = (id: string, stops: number): Glass => ({
  id,
  kind: "solid",
  name: `Slot ND ${stops}`,
  label: `${stops} stops`,
  stops,
  offset: null,
  offset_sd: null,
});
const START = fromStarter({
  glass: Array.from({ length: 10 }, (_, place) => glass(`g${place}`, place + 1)),
  on: ["g8"],
  reading: { shutter: "1/40", aperture: "9", iso: "64" },
});
const after = (...moves: Move[]): Bench => moves.reduce((state, move) => bench(state, move, NOW), START);
const toggle = (id: string): Move => ({ do: "toggle", id });

describe("the bench", () => {
  it("puts glass on in the order of the hands and takes it off again", () => {
    const two = after(toggle("g3"), toggle("g0"));
    expect(stackOf(two).map((one) => one.stops)).toEqual([9, 4, 1]);
    expect(bench(two, toggle("g8"), NOW).on).toEqual(["g3", "g0"]);
    expect(after({ do: "bare" }).on).toEqual([]);
  });

  it("never holds more than eight glasses", () => {
    const full = after(...START.bag.filter((one) => one.id !== "g8").map((one) => toggle(one.id)));
    expect(full.on).toHaveLength(8);
  });

  it("keeps what was on at the reading in step with what is on", () => {
    const through = after({ do: "toggleInReading", id: "g1" });
    expect([through.on, through.inReading]).toEqual([["g8", "g1"], ["g1"]]);
    expect(bench(through, { do: "toggleInReading", id: "g1" }, NOW).inReading).toEqual([]);
    expect(bench(through, toggle("g1"), NOW).inReading).toEqual([]);
  });

  it("dates the reading when the reading changes, and only then", () => {
    expect(after({ do: "set", change: { shutter: "1/50" } }).meteredAt).toBe(NOW.toISOString());
    expect(after({ do: "set", change: { shotAperture: "11" } }).meteredAt).toBeNull();
    expect(after(toggle("g0")).meteredAt).toBeNull();
  });

  it("adds a glass to the bag and onto the lens, and forgets it whole", () => {
    const added = after({ do: "add", glass: glass("own", 6) });
    expect(added.on).toEqual(["g8", "own"]);
    const gone = bench(added, { do: "remove", id: "own" }, NOW);
    expect([gone.on, gone.bag.length]).toEqual([["g8"], 10]);
  });

  it("asks with a camera's reading or a hand meter's, never both", () => {
    const asked = questionOf(after({ do: "set", change: { shotIso: "100" } }));
    expect(asked.reading).toEqual({ shutter: "1/40", aperture: "9", iso: "64", step: "third" });
    expect(asked.settings).toEqual({ aperture: "9", iso: "100" });
    const hand = questionOf(START, { meter: "hand", ev100: 9.4 });
    expect(hand.reading).toEqual({ ev100: 9.4, step: "third" });
    expect(START.meter).toBe("camera");
  });
});
