import { describe, expect, it } from "vitest";
import type { ItemOf, KitItem, Sort } from "../../state/kit";
import { withEnd } from "./cleanEnds";
import { waysFor } from "./ways";
import { sentenceOf, strengthOf } from "./sentences";
import { placed, stepped } from "./sorting";

const FACTS: Partial<Record<Sort, object>> = {
  body: {
    dial_limit_s: 30,
    iso_lowest: 64,
    iso_highest: 800,
    sensor_width_mm: 36,
    sensor_height_mm: 24,
    film: false,
    dark_from_s: null,
    eyepiece: "electronic",
  },
  lens: {
    focal_min_mm: 24,
    focal_max_mm: 24,
    takes: "thread",
    thread_mm: 72,
    clear_from_mm: null,
    clear_rims_mm: null,
    clear_seen_on: "",
  },
  glass: {
    kind: "solid",
    label: "9 stops",
    stops: 9,
    stops_max: null,
    tolerance: 0.33,
    offset: null,
    give_or_take: null,
    evidence: "none",
    measured_on: "",
    usable_end: [],
    cast_mired: null,
    corner_stops: null,
    transition: "soft",
  },
  release: { kind: "wired", delay_s: 0.1, longest_s: null },
  accessory: { kind: "step_ring", from_mm: 72, to_mm: 77 },
};

function item<S extends Sort>(sort: S, facts: object = {}): ItemOf<S> {
  return {
    id: "x",
    sort,
    name: "It",
    note: "",
    retired: false,
    facts: { ...FACTS[sort], ...facts },
  } as unknown as ItemOf<S>;
}

const said = (_: unknown, __: string, code: string) => code;

describe("a thing in a sentence", () => {
  it.each<[KitItem, string]>([
    [item("body"), "dial to 30 s, ISO 64–800, 36 × 24 mm"],
    [item("body", { film: true, iso_lowest: 100 }), "dial to 30 s, ISO 100, 36 × 24 mm; shoots film"],
    [item("lens"), "24 mm; 72 mm thread; corners not checked yet"],
    [
      item("lens", { clear_from_mm: 24, clear_rims_mm: 9, clear_seen_on: "in spring" }),
      "24 mm; 72 mm thread; clear from 24 mm with up to 9 mm of rims; seen on in spring",
    ],
    [item("lens", { takes: "none" }), "24 mm; takes no filters"],
    [item("release"), "wired, opens 0.1 s after the press"],
    [item("accessory"), "step ring from 72 to 77 mm"],
    [item("glass"), "Labelled 9 stops, sold as good to ± 0.33. Nobody has measured it: sums use the label."],
    [
      item("glass", { offset: 0.3, give_or_take: 0.2, evidence: "two_readings" }),
      "Labelled 9 stops, sold as good to ± 0.33. Sums use 9.3 ± 0.2, from two readings.",
    ],
    [
      item("glass", { kind: "variable", label: "", stops: 2, stops_max: 5, usable_end: [[16, 4.67]] }),
      "Labelled 2 stops, sold as good to ± 0.33. Turns from 2 to 5 stops. Nobody has measured it: sums use the label. Clean up to 4.67 stops at 16 mm.",
    ],
    [item("glass", { kind: "graduated", stops: 2 }), "2 stops at its dark side, soft edge. It adds nothing to sums."],
  ])("%#", (thing, sentence) => {
    expect(sentenceOf(thing, said)).toBe(sentence);
  });

  it.each([
    [{}, "9"],
    [{ offset: 0.3 }, "9.3"],
    [{ kind: "variable", stops: 2, stops_max: 5 }, "2–5"],
    [{ kind: "variable", stops: 2, stops_max: 5, offset: -0.25 }, "1.8–4.8"],
    [{ kind: "graduated", stops: 2, offset: 0.5 }, "2"],
  ])("counts as what is known of it: %j", (facts, strength) => {
    expect(strengthOf(item("glass", facts))).toBe(strength);
  });
});

describe("measuring", () => {
  it.each<[KitItem, string[]]>([
    [item("glass"), ["readings", "pair"]],
    [item("glass", { kind: "variable" }), ["clean", "readings"]],
    [item("glass", { kind: "graduated" }), []],
    [item("lens", { takes: "none" }), []],
    [item("body"), ["specks", "leak"]],
    [item("body", { eyepiece: "none" }), ["specks"]],
    [item("release"), []],
  ])("%#", (thing, ways) => {
    expect(waysFor(thing)).toEqual(ways);
  });

  it("keeps one clean end for a focal length, in their order", () => {
    expect(
      withEnd(
        [
          [35, 4.5],
          [16, 4],
        ],
        [16, 3.5],
      ),
    ).toEqual([
      [16, 3.5],
      [35, 4.5],
    ]);
  });
});

describe("order", () => {
  it("goes one place at a time and ends at the ends", () => {
    const group = ["a", "c", "e"];
    expect(stepped("c", group, -1)).toEqual({ id: "c", side: "before", other: "a" });
    expect(stepped("e", group, 1)).toBeNull();
    // What lies outside of the group has no place in it.
    expect(stepped("x", group, 1)).toBeNull();
    // What lies between belongs to other groups and stays.
    expect(placed(["a", "b", "c", "d", "e"], { id: "a", side: "after", other: "c" })).toEqual([
      "b",
      "c",
      "a",
      "d",
      "e",
    ]);
    expect(placed(["a", "b", "c"], { id: "c", side: "before", other: "a" })).toEqual(["c", "a", "b"]);
  });
});
