import type { Schemas } from "../../api/client";
import type { KitItem } from "../../questions/kit";

type Seen = Schemas["Seen"];

const MOST = 24;
const SEEN = new Set<string>([
  "corner",
  "cross",
  "cast",
  "leak",
  "specks",
  "shake",
  "leaves",
  "ghosts",
  "clipped",
  "waterline",
] satisfies Seen[]);

/** What one's own log shows: faults by name, and how many frames were off without one. */
export function mistakesOf(mistakes: { code: string; frames: number }[]): { seen: Seen[]; missed: number } {
  const seen = mistakes.filter(({ code }) => SEEN.has(code)).map(({ code }) => code as Seen);
  const missed = mistakes.filter(({ code }) => !SEEN.has(code)).reduce((sum, { frames }) => sum + frames, 0);
  return { seen, missed };
}

/** The solid filters of the bag as they measure, the first of them. */
export function solidsOf(items: readonly KitItem[]): { name: string; stops: number }[] {
  const solid = items.flatMap((item) =>
    item.sort === "glass" && !item.retired && item.strength.kind === "solid" && item.strength.low === item.strength.high
      ? [{ name: item.name, stops: item.strength.low }]
      : [],
  );
  return solid.filter(({ stops }) => stops >= 0.5 && stops <= 15).slice(0, MOST);
}
