import type { KitItem } from "../../state/kit";

type Way = "readings" | "pair" | "clean" | "corners" | "specks" | "leak";

/** How a thing can be measured; the easiest way first. */
export function waysFor(item: KitItem): Way[] {
  if (item.sort === "body") return ["specks", ...(item.facts.eyepiece === "none" ? [] : (["leak"] as const))];
  if (item.sort === "lens") return item.facts.takes === "none" ? [] : ["corners"];
  if (item.sort !== "glass") return [];
  switch (item.facts.kind) {
    case "graduated":
      return [];
    case "variable":
      return ["clean", "readings"];
    case "solid":
      return ["readings", "pair"];
    default:
      return ["readings"];
  }
}

/** The clean ends with one more, or another one at its focal length, by focal length. */
export function withEnd(ends: readonly number[][], end: readonly number[]): (readonly number[])[] {
  return [...ends.filter(([focal]) => focal !== end[0]), end].toSorted(([a = 0], [b = 0]) => a - b);
}

/** Today by this device's calendar, as the facts keep a day. */
export function today(): string {
  const now = new Date();
  const two = (part: number) => String(part).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}

/** Further than this from its label something else went wrong [stops]. */
export const FAR_STOPS = 1.5;
