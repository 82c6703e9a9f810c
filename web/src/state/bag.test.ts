import { describe, expect, it } from "vitest";
import { chosen, clashing, glassOf, itemsOf, kitGlass } from "./bag";
import type { ItemOf, KitItem } from "./kit";

const strength = { kind: "solid", stops: 9, offset: null, offset_sd: 0.17, low: 9, high: 9 };
const item = (id: string, more: object = {}) =>
  ({
    id,
    sort: "glass",
    name: `Glass ${id}`,
    note: "",
    retired: false,
    facts: { members: [] },
    strength,
    ...more,
  }) as unknown as KitItem;
const glass = (more: object) => item("a", { strength: { ...strength, ...more } }) as ItemOf<"glass">;

describe("the bag", () => {
  it("holds what is not put away, sort by sort, and falls back to the first", () => {
    const kit = [item("a", { retired: true }), item("b"), item("c"), item("d", { sort: "lens" })];
    expect(itemsOf(kit, "glass").map((piece) => piece.id)).toEqual(["b", "c"]);
    expect(chosen(kit, "glass", "c")?.id).toBe("c");
    expect(chosen(kit, "glass", "a")?.id).toBe("b");
    expect(chosen(kit, "glass", null)?.id).toBe("b");
    expect(chosen(kit, "body", "d")).toBeUndefined();
  });

  it("hands a glass to the bench at its label, with what is known beside it", () => {
    expect(glassOf(glass({ offset: 0.35 }))).toMatchObject({ id: "a", name: "Glass a", stops: 9, offset: 0.35 });
  });

  it("never has a named stack beside its members, nor beside another that shares one", () => {
    const named = (id: string, ...members: string[]) => glassOf({ ...glass({}), id, facts: { members } } as never);
    const bag = [named("a"), named("b"), named("c"), named("ab", "a", "b"), named("bc", "b", "c")];
    expect(["a", "b", "ab"].map((id) => clashing(bag, id))).toEqual([["ab"], ["ab", "bc"], ["a", "b", "bc"]]);
    expect(kitGlass({ ...glass({}), facts: { members: ["a", "b"] } } as never)).toMatchObject({ members: ["a", "b"] });
  });

  it.each([
    ["a solid one by what it measures", { low: 9.35, high: 9.35 }, { stops: 9.35 }],
    ["a range by both its ends", { kind: "variable", low: 2, high: 5 }, { min: 2, max: 5 }],
    ["one that measures below nothing as nothing", { low: -0.1, high: -0.1 }, { stops: 0 }],
    ["a graduated one without a strength", { kind: "graduated", low: 2, high: 2 }, {}],
  ])("hands the finder %s", (_, known, asked) => {
    const found = kitGlass(glass(known));
    expect(found).toEqual({ id: "a", members: [], kind: "kind" in known ? known.kind : "solid", ...asked });
  });
});
