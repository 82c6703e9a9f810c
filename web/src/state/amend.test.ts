// @vitest-environment happy-dom
import { beforeEach, expect, test, vi } from "vitest";
import { amend, takeBack } from "./amend";
import { type Draft, draftOf, forgetItem, itemsKept, keepItems } from "./kit";
import { memoryShelf } from "./shelf";
import { store } from "./store";

const core = vi.hoisted(() => ({ away: false }));
vi.mock("../questions/kit", async (original) => ({
  ...(await original<typeof import("../questions/kit")>()),
  // The core hands back what it read.
  askItems: (drafts: Draft[]) =>
    core.away
      ? Promise.reject(new Error("nobody there"))
      : Promise.resolve(drafts.map((draft) => ({ ...draft, strength: {} }))),
}));

const PLATE: Draft = { id: "a", sort: "glass", name: "Slot ND 6", note: "", retired: false, facts: { stops: 6 } };
const kept = () => {
  const [item] = itemsKept();
  return item && draftOf(item);
};

beforeEach(async () => {
  await store.open(memoryShelf(), "guest");
  await keepItems([PLATE]);
});

test("a thing is amended as it stands now, and taking that back leaves what was changed since", async () => {
  const [shown] = itemsKept();
  if (!shown) throw new Error("nothing kept");
  await keepItems([{ ...PLATE, note: "a scratch" }]);
  await amend(shown, { offset: 0.2 }, "done");
  expect(kept()).toEqual({ ...PLATE, note: "a scratch", facts: { stops: 6, offset: 0.2 } });
  const after = { ...PLATE, facts: { stops: 6, offset: 0.2 } };
  await keepItems([{ ...after, name: "Slot ND 6 b", facts: { ...after.facts, mount: "plate" } }]);
  await takeBack([{ before: PLATE, after }]);
  expect(kept()).toEqual({ ...PLATE, name: "Slot ND 6 b", facts: { stops: 6, mount: "plate" } });
});

test("what was renamed is called as before; what was removed since stays away", async () => {
  const after = { ...PLATE, name: "Slot 6", retired: true };
  await keepItems([{ ...after, note: "a scratch" }]);
  await takeBack([{ before: PLATE, after }]);
  expect(kept()).toEqual({ ...PLATE, note: "a scratch" });
  core.away = true;
  await takeBack([{ before: after, after: PLATE }]);
  expect(kept()).toEqual({ ...PLATE, note: "a scratch" });
  core.away = false;
  const undo = await forgetItem(PLATE.id);
  await takeBack([{ before: PLATE, after }]);
  expect(itemsKept()).toEqual([]);
  await undo();
  expect(kept()).toEqual({ ...PLATE, note: "a scratch" });
});

test("what was removed comes back to its own place, with nobody there to ask", async () => {
  await keepItems([{ ...PLATE, id: "b", name: "Slot ND 3" }]);
  const undo = await forgetItem("a");
  core.away = true;
  await undo();
  core.away = false;
  expect(itemsKept().map(({ id }) => id)).toEqual(["a", "b"]);
});
