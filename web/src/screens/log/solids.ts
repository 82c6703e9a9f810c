import type { KitItem } from "../../questions/kit";

/** As many as a drill takes. */
const MOST = 24;

/** The solid filters of the bag as they measure, the first of them. */
export function solidsOf(items: readonly KitItem[]): { name: string; stops: number }[] {
  const solid = items.flatMap((item) =>
    item.sort === "glass" && !item.retired && item.strength.kind === "solid" && item.strength.low === item.strength.high
      ? [{ name: item.name, stops: item.strength.low }]
      : [],
  );
  return solid.filter(({ stops }) => stops >= 0.5 && stops <= 15).slice(0, MOST);
}
