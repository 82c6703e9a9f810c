import type { Looks } from "../../questions/looks";
import type { Move } from "../../state/bench";
import { say } from "../../ui/say";
import { words } from "../../words";
import { Alternatives, type Target } from "./Alternatives";
import type { BenchView } from "./useBenchView";

const THIRD = 1 / 3;

/** Ways to the time or the look that is wanted; taking one can be undone. */
export function Ways({ view, move }: { view: BenchView; move: (move: Move) => void }) {
  const { laid, looks, answer } = view;
  const { bench } = laid;
  if (!answer) return null;
  return (
    <Alternatives
      laid={laid}
      intoAim={bench.targetSeconds === null && looks?.aim != null}
      target={targetOf(bench.targetSeconds, looks?.aim, answer.seconds)}
      onTake={(stack, turned, how) => {
        move({ do: "take", on: stack.glass, aperture: stack.aperture, iso: stack.iso, turned });
        const { on, shotAperture, shotIso, turned: before, floating: what, targetSeconds } = bench;
        const change = { on, shotAperture, shotIso, turned: before, floating: what, targetSeconds };
        say({
          text: words.alternatives.taken(how),
          action: { label: words.alternatives.undo, act: () => move({ do: "set", change }) },
        });
      }}
    />
  );
}

/** What the ways steer for: the time held, else the aim, else the time that stands there. */
function targetOf(held: number | null, aim: Looks["aim"] | undefined, seconds: number): Target {
  if (held !== null) return { seconds: held, within_stops: THIRD };
  if (aim) return { seconds: aim.middle_seconds, within_stops: aim.half_stops };
  return { seconds, within_stops: THIRD };
}
