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
  /** The same once the ring is said to be turned to something. */
  turned_sd?: number;
  low: number;
  high: number;
  /** How much further a variable filter goes that nobody has turned yet: its time is a range. */
  open?: number;
  /** What a named stack is made of. */
  members: string[];
}

/** A polariser is sold without a strength; this is what most of them take, until it is measured. */
export const POLARISER_STOPS = 1.5;

export function glassOf(item: ItemOf<"glass">): Glass {
  return { id: item.id, name: item.name, ...item.strength, members: item.facts.members };
}

/** What cannot be on beside a filter: a named stack's members, and named stacks that share one. */
export function clashing(bag: readonly Glass[], id: string): string[] {
  const parts = (glass: Glass) => [glass.id, ...glass.members];
  const mine = bag.find((glass) => glass.id === id);
  if (!mine) return [];
  return bag
    .filter((other) => other.id !== id && parts(other).some((part) => parts(mine).includes(part)))
    .map((other) => other.id);
}

export function itemsOf<S extends Sort>(items: KitItem[], sort: S): ItemOf<S>[] {
  return items.filter((item): item is ItemOf<S> => item.sort === sort && !item.retired);
}

/** The item chosen, else the first of its sort. */
export function chosen<S extends Sort>(items: KitItem[], sort: S, id: string | null): ItemOf<S> | undefined {
  const all = itemsOf(items, sort);
  return all.find((item) => item.id === id) ?? all[0];
}

/** What opens the shutter: the one chosen, or the only one; of several none before somebody has chosen. */
export function releaseOf(items: KitItem[], id: string | null): ItemOf<"release"> | undefined {
  const all = itemsOf(items, "release");
  return all.find((item) => item.id === id) ?? (all.length === 1 ? all[0] : undefined);
}

/** A kit glass as the finder and the reach take it, at its measured strength. */
export function kitGlass(item: ItemOf<"glass">): Schemas["KitGlassInput"] {
  const { kind, low, high } = item.strength;
  const strength = low === high ? { stops: Math.max(0, low) } : { min: Math.max(0, low), max: high };
  const { members, mount, size_mm } = item.facts;
  return { id: item.id, kind, members, mount, size_mm, ...(kind === "graduated" ? {} : strength) };
}
