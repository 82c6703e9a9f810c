import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { answer, api, type Schemas } from "../api/client";
import { browserStore } from "./browserStore";
import { useSession } from "./session";

export type KitItem = Schemas["KitAnswer"]["items"][number];
export type Sort = KitItem["sort"];
export type ItemOf<S extends Sort> = Extract<KitItem, { sort: S }>;
export type Facts = KitItem["facts"];

/** An item as it is sent: what the core works out beside it stays behind. */
export type Draft = {
  id: string;
  sort: Sort;
  name: string;
  note: string;
  retired: boolean;
  facts: Record<string, unknown>;
};

export interface Kit {
  items: KitItem[];
  loading: boolean;
  guest: boolean;
  /** Create items or bring them up to date, all or none; throws Refused with each fault's place. */
  keep: (drafts: Draft[]) => Promise<void>;
  forget: (id: string) => Promise<void>;
  order: (ids: string[]) => Promise<void>;
}

export function draftOf(item: KitItem): Draft {
  const { id, sort, name, note, retired, facts } = item;
  return { id, sort, name, note, retired, facts: { ...facts } };
}

export function starterQuery() {
  return { queryKey: ["starter"], queryFn: () => answer(api.GET("/api/starter")), staleTime: Infinity };
}

/** What a guest has made of the starter kit, null while untouched. */
const guestKit = browserStore<KitItem[] | null>("jackstaff.kit.1", null);

/** The kit of whoever is here: the account's, else what this browser keeps, else the starter's. */
export function useKit(): Kit {
  const client = useQueryClient();
  const session = useSession().data;
  const account = session?.signed_in ? session.username : null;
  const starter = useQuery(starterQuery());
  const own = useQuery({
    queryKey: ["kit", account],
    queryFn: () => answer(api.GET("/api/kit")),
    enabled: account !== null,
    staleTime: 60_000,
  });
  const guest = guestKit.use();
  const starterItems = starter.data?.kit.items;
  const items = (account === null ? (guest ?? starterItems) : own.data?.items) ?? [];

  const took = useCallback(
    (kit: Schemas["KitAnswer"]) => client.setQueryData(["kit", account], kit),
    [client, account],
  );
  const guestItems = () => guestKit.read() ?? starterItems ?? [];
  return {
    items,
    loading: session === undefined || (account === null ? !guest && !starterItems : own.isPending),
    guest: account === null,
    keep: async (drafts) => {
      const body = { items: drafts.map((draft) => ({ ...draft })) };
      if (account !== null) {
        took(await answer(api.PUT("/api/kit/items", { body })));
        return;
      }
      const checked = (await answer(api.POST("/api/kit/check", { body }))).items;
      const kept = guestItems().map((item) => checked.find((one) => one.id === item.id) ?? item);
      guestKit.write([...kept, ...checked.filter((one) => !kept.some((item) => item.id === one.id))]);
    },
    forget: async (id) => {
      if (account === null) {
        guestKit.write(guestItems().filter((item) => item.id !== id));
        return;
      }
      await answer(api.DELETE("/api/kit/items/{key}", { params: { path: { key: id } } }));
      await client.invalidateQueries({ queryKey: ["kit", account] });
    },
    order: async (ids) => {
      if (account !== null) {
        took(await answer(api.PUT("/api/kit/order", { body: { ids } })));
        return;
      }
      const place = new Map(ids.map((id, at) => [id, at]));
      guestKit.write(guestItems().toSorted((one, other) => (place.get(one.id) ?? 999) - (place.get(other.id) ?? 999)));
    },
  };
}

/** Send what a guest made (not the starter's own, untouched) to the account just signed in. Returns how many. */
export async function adoptKit(starter: KitItem[]): Promise<{ things: number; kit: Schemas["KitAnswer"] | null }> {
  const mine = guestKit.read();
  if (!mine) return { things: 0, kit: null };
  const untouched = new Map(starter.map((item) => [item.id, JSON.stringify(item)]));
  const made = mine.filter((item) => untouched.get(item.id) !== JSON.stringify(item));
  let kit = null;
  if (made.length > 0) {
    const drafts = made.map((item) => ({
      ...draftOf(item),
      // The starter's keys are everybody's; an account needs its own.
      id: untouched.has(item.id) ? crypto.randomUUID() : item.id,
    }));
    kit = await answer(api.PUT("/api/kit/items", { body: { items: drafts } }));
  }
  guestKit.write(null);
  return { things: made.length, kit };
}
