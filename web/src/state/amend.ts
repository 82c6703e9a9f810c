import { Refused } from "../api/client";
import { say } from "../ui/say";
import { words } from "../words";
import { bagWords } from "../words/bag";
import { type Draft, draftOf, itemsKept, keepItems, type KitItem } from "./kit";

/** Change a few facts of a thing as it stands now, say so, and offer to undo it; a refusal is said instead. */
export async function amend(item: KitItem, facts: Record<string, unknown>, message: string): Promise<void> {
  const before = standing(item.id) ?? draftOf(item);
  const after = { ...before, facts: { ...before.facts, ...facts } };
  try {
    await keepItems([after]);
  } catch (error) {
    say({ text: error instanceof Refused ? error.message : words.trouble.unreachable });
    return;
  }
  say({ text: message, action: { label: bagWords.undo, act: () => void takeBack(before, after) } });
}

/** What lies between two states of a thing taken back, on top of whatever else was changed of it since. */
export async function takeBack(before: Draft, after: Draft): Promise<void> {
  const now = standing(before.id);
  if (!now) return;
  const names = Object.keys({ ...before.facts, ...after.facts });
  const facts = names.filter((name) => !same(before.facts[name], after.facts[name]));
  await keepItems([
    {
      ...now,
      name: before.name === after.name ? now.name : before.name,
      note: before.note === after.note ? now.note : before.note,
      retired: before.retired === after.retired ? now.retired : before.retired,
      facts: { ...now.facts, ...Object.fromEntries(facts.map((name) => [name, before.facts[name]])) },
    },
  ]);
}

/** Whether two values of a fact say the same; lists by what is in them. */
export function same(first: unknown, other: unknown): boolean {
  return JSON.stringify(first) === JSON.stringify(other);
}

function standing(id: string): Draft | undefined {
  const held = itemsKept().find((item) => item.id === id);
  return held && draftOf(held);
}
