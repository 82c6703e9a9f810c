import type { Laid, Move } from "../../state/bench";
import { useKeys } from "../../ui/useKeys";

/** The bench by keyboard: filters by their numbers, a new reading, and the next step. */
export function useBenchKeys(laid: Laid, move: (move: Move) => void, armIt: () => void) {
  const press = (turn: "toggle" | "toggleThrough") => (event: KeyboardEvent) => {
    const id = laid.bag[Number(event.code.slice(-1)) - 1]?.id;
    if (id) move({ do: turn, id });
  };
  const digits = [1, 2, 3, 4, 5, 6, 7, 8, 9];
  useKeys(digits.join(","), press("toggle"), "position");
  useKeys(digits.map((digit) => `shift+${digit}`).join(","), press("toggleThrough"), "position");
  useKeys("0", () => move({ do: "bare" }), "position");
  useKeys("m", () => move({ do: "meterAgain" }));
  useKeys("r", armIt);
}
