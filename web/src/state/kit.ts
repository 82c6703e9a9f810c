import { useMemo, useSyncExternalStore } from "react";
import * as v from "valibot";
import { askItems, type Draft, draftOf, type KitItem } from "../questions/kit";
import { useExchange } from "./outbox";
import { isPractice, staying, useSession } from "./session";
import { starter, useStarter } from "./starter";
import { drawer, store } from "./store";

export { type Draft, draftOf, type KitItem } from "../questions/kit";
export type Sort = KitItem["sort"];
export type ItemOf<S extends Sort> = Extract<KitItem, { sort: S }>;

/** A thing as it is kept: as the core read it, with its place in the order. */
interface Placed {
  item: KitItem;
  place: number;
}

const SORTS = ["body", "lens", "holder", "glass", "film", "release", "support", "accessory"] as const satisfies Sort[];

const SHAPE = v.object({
  place: v.number(),
  item: v.looseObject({
    id: v.string(),
    sort: v.picklist(SORTS),
    name: v.string(),
    facts: v.looseObject({}),
  }),
});

const SOUND: Partial<Record<Sort, string>> = { glass: "strength", body: "offers", film: "law" };

const things = drawer<Placed>({
  name: "kit",
  version: 1,
  check: (content) => {
    if (!v.is(SHAPE, content)) return null;
    // What the core works out beside the facts is what the sums are made of.
    const beside = SOUND[content.item.sort];
    if (beside !== undefined && content.item[beside] === undefined) return null;
    return (content.item.sort === "glass" ? grown(content) : content) as unknown as Placed;
  },
  wire: ({ item, place }) => {
    const { sort, name, note, retired, facts } = draftOf(item);
    return { sort, name, note, retired, facts, place };
  },
  sort: ({ place }) => String(999_999 - place).padStart(6, "0"),
});

/** What filters were kept before some of their facts were known. */
function grown<Content extends { item: { facts: object } }>(content: Content): Content {
  return { ...content, item: { ...content.item, facts: { members: [], ...content.item.facts } } };
}

export interface Kit {
  items: KitItem[];
  loading: boolean;
  guest: boolean;
}

/**
 * The kit of whoever is here. Until somebody has one of their own it is the starter's, whose things have the same keys
 * everywhere, so that what a guest changed of them is the same thing in an account.
 */
export function useKit(): Kit {
  const own = things.use();
  const session = useSession();
  const first = useStarter();
  const { head } = useExchange();
  const removed = useSyncExternalStore(store.subscribe, () => removals(first?.kit.items ?? []));
  return useMemo(() => {
    const lent = !session.practice && (session.account === null || head === 0) ? (first?.kit.items ?? []) : [];
    const items = laid(own, lent, removed);
    return { items, loading: items.length === 0 && first === null && head === 0, guest: session.account === null };
  }, [own, session.account, session.practice, first, head, removed]);
}

/** Which of the starter's things were removed here, as one text that compares. */
function removals(lent: KitItem[]): string {
  return lent
    .filter((item) => things.removed(item.id))
    .map((item) => item.id)
    .join();
}

function laid(own: readonly Placed[], lent: KitItem[], removed: string): KitItem[] {
  const mine = new Set(own.map((placed) => placed.item.id));
  const removedIds = new Set(removed.split(","));
  const rest = lent
    .map((item, place) => ({ item, place }))
    .filter(({ item }) => !mine.has(item.id) && !removedIds.has(item.id));
  return [...own, ...rest].toSorted((a, b) => a.place - b.place).map((placed) => placed.item);
}

/** The kit as it is now, outside of a component. */
export function itemsKept(): KitItem[] {
  return itemsNow().map(({ item }) => item);
}

function itemsNow(): Placed[] {
  const own = things.all();
  const lent = isPractice() ? [] : (starter()?.kit.items ?? []);
  return laid(own, lent, removals(lent)).map((item, at) => ({ item, place: things.get(item.id)?.place ?? at }));
}

/** Create things or bring them up to date, all or none; throws Refused with each fault's place. */
export async function keepItems(drafts: Draft[]): Promise<void> {
  const here = staying();
  const read = await askItems(drafts);
  here();
  const now = itemsNow();
  const end = Math.max(-1, ...now.map((placed) => placed.place)) + 1;
  await Promise.all(
    read.map((item, at) => {
      const place = now.find((placed) => placed.item.id === item.id)?.place ?? end + at;
      return things.set(item.id, { item, place });
    }),
  );
}

/** Remove a thing; gives the way back, to its own place. */
export async function forgetItem(id: string): Promise<() => Promise<void>> {
  const held = itemsNow().find(({ item }) => item.id === id);
  await things.remove(id);
  return async () => {
    if (held) await things.set(id, held);
  };
}

/** Put things in this order. */
export async function orderItems(ids: string[]): Promise<void> {
  const now = itemsNow();
  await Promise.all(
    ids.flatMap((id, place) => {
      const held = now.find((placed) => placed.item.id === id);
      return held && held.place !== place ? [things.set(id, { item: held.item, place })] : [];
    }),
  );
}
