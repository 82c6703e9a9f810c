import { faultText } from "../ui/faultText";
import { say } from "../ui/say";
import { bagWords } from "../words/bag";
import { type Draft, draftOf, itemsKept, keepItems, type KitItem } from "./kit";

/** Two states of one thing. */
interface Change {
  before: Draft;
  after: Draft;
}

/** Change a few facts of a thing as it stands now, say so, and offer to undo it; a refusal is said instead. */
export async function amend(item: KitItem, facts: Record<string, unknown>, message: string): Promise<void> {
  let done: Change;
  try {
    done = await keepFacts(item, facts);
  } catch (error) {
    say({ text: faultText(error) });
    return;
  }
  say({ text: message, action: { label: bagWords.undo, act: () => void takeBack([done]) } });
}

/** A few facts of a thing kept as it stands now; throws Refused. */
export async function keepFacts(item: KitItem, facts: Record<string, unknown>): Promise<Change> {
  const before = standing(item.id) ?? draftOf(item);
  const after = { ...before, facts: { ...before.facts, ...facts } };
  await keepItems([after]);
  return { before, after };
}

/**
 * Changes of things taken back, on top of whatever else was changed of them since; what was removed stays away. Where
 * that cannot be, it is said.
 */
export async function takeBack(changes: Change[]): Promise<void> {
  try {
    await keepItems(changes.flatMap(restored));
  } catch (error) {
    say({ text: faultText(error) });
  }
}

function restored({ before, after }: Change): Draft[] {
  const now = standing(before.id);
  if (!now) return [];
  const names = Object.keys({ ...before.facts, ...after.facts });
  const facts = names.filter((name) => !same(before.facts[name], after.facts[name]));
  return [
    {
      ...now,
      name: before.name === after.name ? now.name : before.name,
      note: before.note === after.note ? now.note : before.note,
      retired: before.retired === after.retired ? now.retired : before.retired,
      facts: { ...now.facts, ...Object.fromEntries(facts.map((name) => [name, before.facts[name]])) },
    },
  ];
}

/** Whether two values of a fact say the same; lists by what is in them. */
export function same(first: unknown, other: unknown): boolean {
  return JSON.stringify(first) === JSON.stringify(other);
}

function standing(id: string): Draft | undefined {
  const held = itemsKept().find((item) => item.id === id);
  return held && draftOf(held);
}
