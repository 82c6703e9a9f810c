import type { Schemas } from "../api/client";
import type { ItemOf, KitItem, Sort } from "./kit";

/** A glass as the bench, the staff and the questions take it. */
export interface Glass {
  id: string;
  name: string;
  kind: Schemas["GlassKind"];
  /** As labelled; a range at its middle, or where the ring is turned to. */
  stops: number;
  offset: number | null;
  offset_sd: number;
  low: number;
  high: number;
}

/** A polariser is sold without a strength; this is what most of them take, until it is measured. */
export const POLARISER_STOPS = 1.5;

export function glassOf(item: ItemOf<"glass">): Glass {
  return { id: item.id, name: item.name, ...item.strength };
}

export function itemsOf<S extends Sort>(items: KitItem[], sort: S): ItemOf<S>[] {
  return items.filter((item): item is ItemOf<S> => item.sort === sort && !item.retired);
}

/** The item chosen, else the first of its sort. */
export function chosen<S extends Sort>(items: KitItem[], sort: S, id: string | null): ItemOf<S> | undefined {
  const all = itemsOf(items, sort);
  return all.find((item) => item.id === id) ?? all[0];
}

/** A kit glass as the finder and the reach take it, at its measured strength. */
export function kitGlass(item: ItemOf<"glass">): Schemas["KitGlassAsked"] {
  const { kind, low, high } = item.strength;
  const strength = low === high ? { stops: Math.max(0, low) } : { min: Math.max(0, low), max: high };
  return { id: item.id, kind, ...(kind === "graduated" ? {} : strength) };
}
