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

/** Further than this from its label something else went wrong [stops]. */
export const FAR_STOPS = 1.5;
