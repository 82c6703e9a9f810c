import { Refused } from "../api/client";
import { say } from "../ui/say";
import { words } from "../words";
import { bagWords } from "../words/bag";
import { draftOf, keepItems, type KitItem } from "./kit";

/** Change a few facts of a thing, say so, and offer to undo it; a refusal is said instead. */
export async function amend(item: KitItem, facts: Record<string, unknown>, message: string): Promise<void> {
  const before = draftOf(item);
  try {
    await keepItems([{ ...before, facts: { ...before.facts, ...facts } }]);
  } catch (error) {
    say({ text: error instanceof Refused ? error.message : words.trouble.unreachable });
    return;
  }
  say({ text: message, action: { label: bagWords.undo, act: () => void keepItems([before]) } });
}
