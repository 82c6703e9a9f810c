// @vitest-environment happy-dom
import { beforeAll, describe, expect, it } from "vitest";
import type { KitItem } from "./kit";
import { isLent, learnStarter, type Starter } from "./starter";

const filter = (id: string, facts: object, more: object = {}) =>
  ({
    id,
    sort: "glass",
    name: `ND ${id}`,
    note: "",
    retired: false,
    facts: { members: [], ...facts },
    ...more,
  }) as unknown as KitItem;
const LENT = filter("9", { kind: "solid", stops: 9, offset: null });

beforeAll(() => learnStarter("this build", { kit: { items: [LENT] } } as unknown as Starter));

describe("a lent thing", () => {
  it.each([
    ["as it came", LENT, true],
    ["its facts in another order", filter("9", { offset: null, stops: 9, kind: "solid" }), true],
    ["measured", filter("9", { kind: "solid", stops: 9, offset: 0.3 }), false],
    ["renamed", filter("9", LENT.facts, { name: "Mine" }), false],
    ["noted upon", filter("9", LENT.facts, { note: "green cast" }), false],
    ["retired", filter("9", LENT.facts, { retired: true }), false],
    ["stacked with others that are lent", filter("pair", { members: ["9", "9"] }), true],
    ["stacked with one's own", filter("pair", { members: ["9", "10"] }), false],
    ["measured as a stack", filter("pair", { members: ["9", "9"], offset: 0.2 }), false],
    ["another's", filter("10", LENT.facts), false],
  ])("%s", (_, item, lent) => expect(isLent(item)).toBe(lent));
});
