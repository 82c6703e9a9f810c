import { words } from "./index";

interface Named {
  name: string;
  kind?: string | null;
  stops: number;
}

/** Filters by name, nearest the lens first, a variable one with what it is turned to. */
export function glassNames(glass: readonly Named[]): string {
  return glass.map(glassName).join(" + ") || words.bare;
}

export function glassName({ name, kind, stops }: Named): string {
  return kind === "variable" || kind === "combined" ? words.turnedTo(name, stops.toFixed(1)) : name;
}
