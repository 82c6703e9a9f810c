import { useHotkeys } from "react-hotkeys-hook";
import { isResting } from "./resting";

/**
 * Keys of the page, by what they type (letters, signs) or by their position (digits, so that Shift
 * does not turn 1 into a sign). Silent while somebody types in a field or a dialog is open.
 */
export function useKeys(keys: string, act: (event: KeyboardEvent) => void, by: "sign" | "position" = "sign"): void {
  useHotkeys(keys, act, {
    preventDefault: true,
    useKey: by === "sign",
    enableOnFormTags: true,
    ignoreEventWhen: (event) =>
      (!letters && event.key.length === 1 && event.key !== " ") ||
      event.repeat ||
      isResting() ||
      document.querySelector("[role=dialog]") !== null ||
      hasOwnUse(event.target, event.key),
  });
}

let letters = true;

/** Whether keys that type a sign act at all: who talks to the machine, or rests a hand on it, switches them off. */
export function signKeys(on: boolean): void {
  letters = on;
}

/** Text fields take every key; what is pressed, ticked or chosen takes Space and Enter for itself. */
function hasOwnUse(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.matches("input:not([type=radio]):not([type=checkbox]), textarea, select")) return true;
  return (key === " " || key === "Enter") && target.matches("button, a, summary, input, [role=button]");
}
