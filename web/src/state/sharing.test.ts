import { expect, test } from "vitest";
import type { Glass } from "./bag";
import type { Laid } from "./bench";
import { benchFrom, fragmentOf, LONGEST, readShared } from "./sharing";

const glass = (name: string, stops: number, kind: Glass["kind"] = "solid"): Glass => ({
  id: name,
  name,
  kind,
  stops,
  offset: null,
  offset_sd: 0.1,
  low: kind === "variable" ? 2 : stops,
  high: kind === "variable" ? 5 : stops,
  members: [],
});
const bench = {
  meter: "camera",
  shutter: "1/40",
  aperture: "9",
  iso: "64",
  ev100: 12,
  meteredAt: "2027-04-17T04:19:00.000Z",
  shotAperture: null,
  shotIso: null,
  targetSeconds: null,
  floating: "time",
  purposeThirds: -1,
  scene: {
    subjects: [{ id: "s", kind: "sea", facts: { height_m: 0.6 } }],
    wants: [{ kind: "sea", look: "mirror" }],
    elevationDeg: 3,
    bearingDeg: 90,
  },
};
const laid = {
  bench,
  stack: [glass("Slot ND 9", 9), glass("Drehfilter ü", 3.5, "variable")],
  through: [],
} as unknown as Laid;

test("a set-up comes back from its link as it was, and finds its filters in another bag", () => {
  const shared = readShared(fragmentOf(laid));
  expect(shared).toMatchObject({ shutter: "1/40", aperture: "9", iso: "64", purposeThirds: -1 });
  expect(shared?.on.map(({ name }) => name)).toEqual(["Slot ND 9", "Drehfilter ü"]);
  if (!shared) return;
  // Another's names; the kind and the strength are the same.
  const fit = benchFrom(shared, [glass("Nine", 9), glass("Turning", 3, "variable"), glass("Ring ND 6", 6)]);
  expect(fit.change).toMatchObject({ on: ["Nine", "Turning"], turned: { Turning: 3.5 }, shutter: "1/40" });
  expect(fit.change.scene?.wants).toEqual([{ kind: "sea", look: "mirror" }]);
  expect(fit.missing).toEqual([]);
  // A reading keeps its age; one of the future would be newer than now, and has none.
  const aged = (meteredAt: string) => benchFrom({ ...shared, meteredAt }, []).change.meteredAt;
  expect(aged("2020-04-17T04:19:00.000Z")).toBe("2020-04-17T04:19:00.000Z");
  expect(aged("2999-04-17T04:19:00.000Z")).toBeNull();
  // What the other bag lacks is told, and one filter is not put on twice.
  const twice = benchFrom({ ...shared, on: [shared.on[0], shared.on[0]].flatMap((each) => each ?? []) }, [
    glass("Nine", 9),
  ]);
  expect(twice).toMatchObject({ missing: ["Slot ND 9"], change: { on: ["Nine"] } });
});

const changed = (change: object): string => {
  const text = fragmentOf({ ...laid, bench: { ...bench, ...change } } as unknown as Laid);
  return text;
};

test.each([
  ["another version", fragmentOf(laid).replace("=1.", "=2.")],
  ["cut off", fragmentOf(laid).slice(0, 60)],
  ["no letters of base64", "#set-up=1.%%%"],
  ["too long", `#set-up=1.${"A".repeat(LONGEST)}`],
  ["an EV of no light", changed({ ev100: 31 })],
  ["a time of nobody", changed({ targetSeconds: 1e9 })],
  ["more on purpose than anybody means", changed({ purposeThirds: 16 })],
  ["a mark without end", changed({ shutter: "1".repeat(25) })],
  ["an instant that is none", changed({ meteredAt: "yesterday" })],
])("what is no set-up is not read: %s", (_, fragment) => {
  expect(readShared(fragment)).toBeNull();
});
