import { useState } from "react";
import { useLocation } from "wouter";
import type { Exposure } from "../../questions/bench";
import { isExample, type Laid, type Move } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import { useKit } from "../../state/kit";
import { DEMO, isPractice, useSession } from "../../state/session";
import { useStarter } from "../../state/starter";
import { say } from "../../ui/say";
import { useOnce } from "../../ui/useOnce";
import { nowMs } from "../../ui/worldClock";
import { words } from "../../words";
import { fetchArming } from "./dialogs";

/** A second tap that follows so soon belongs to the first [ms]. */
const TWICE_MS = 700;

interface Given {
  laid: Laid;
  /** The answer as it stands on screen; none while it is worked out, or where something is still to be said. */
  answered: Exposure | undefined;
  light: BenchLight;
  aim: { from_seconds: number; to_seconds: number | null } | null;
  move: (move: Move) => void;
}

/** Taking what stands on the bench to Run. An example reading is asked about first, another day's light is left out. */
export function useArming({ laid, answered, light, aim, move }: Given) {
  const { username } = useSession();
  const starter = useStarter();
  const { items } = useKit();
  const [, navigate] = useLocation();
  const [asked, setAsked] = useState(0);
  // The demo account's reading belongs to its scenario.
  const example = isExample(laid.bench, starter) && username !== DEMO && !isPractice();
  // A second press while it is on its way is the same press.
  const armIt = useOnce(async () => {
    if (!answered || (example && nowMs() - asked < TWICE_MS)) return;
    if (example && asked === 0) {
      setAsked(nowMs());
      return;
    }
    if (light.otherDay) {
      // What was planned for another day lends nothing to a frame made now: its own light is summed up first.
      move({ do: "set", change: { lightAt: null } });
      say({ text: words.light.otherDay(light.outing.name) });
      return;
    }
    let take;
    try {
      take = (await fetchArming()).armIt;
    } catch {
      say({ text: words.missing.text });
      return;
    }
    // A dry run is at its place, whether its forecast is looked at or not.
    const outing = light.counts || isPractice() ? light.outing : null;
    take({ laid, answered, items, outing, at: light.at, aim });
    navigate("/run");
  });
  return { armIt, example, asks: example && asked > 0, unask: () => setAsked(0) };
}
