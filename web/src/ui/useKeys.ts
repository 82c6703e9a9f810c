import { useEffect, useRef } from "react";
import { tinykeys } from "tinykeys";
import { isResting } from "./resting";

/**
 * Keys of the page, by what they type (letters, signs) or by their position (digits, so that Shift
 * does not turn 1 into a sign). Silent while somebody types in a field or a dialog is open.
 */
export function useKeys(keys: string, act: (event: KeyboardEvent) => void, by: "sign" | "position" = "sign"): void {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      event.preventDefault();
      latest.current(event);
    };
    const presses = keys.split(",").flatMap((key) => pressesOf(key.trim(), by));
    return tinykeys(window, Object.fromEntries(presses.map((each) => [each, press])), { ignore: isForOthers });
  }, [keys, by]);
}

const NAMED: Record<string, string> = { space: "Space", enter: "Enter", escape: "Escape" };

/** The presses that a key stands for: a digit is on two places, and a sign may need Shift where this keyboard has it so. */
function pressesOf(key: string, by: "sign" | "position"): string[] {
  if (key === "") return [];
  const [, shift = "", digit] = /^(shift\+)?(\d)$/.exec(key) ?? [];
  if (by === "position" && digit !== undefined)
    return ["Digit", "Numpad"].map((row) => `${shift && "Shift+"}${row}${digit}`);
  return [NAMED[key] ?? (/^[a-z\d]$/.test(key) ? key : `[Shift]+${key}`)];
}

let inDialog = false;
// Seen before anybody acts on the press: the Escape that closes a dialog is not also for the page beneath.
window.addEventListener(
  "keydown",
  () => {
    inDialog = document.querySelector("[role=dialog]") !== null;
  },
  true,
);

function isForOthers(event: KeyboardEvent): boolean {
  return (
    (!letters && event.key.length === 1 && event.key !== " ") ||
    event.repeat ||
    isResting() ||
    inDialog ||
    hasOwnUse(event.target, event.key)
  );
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
