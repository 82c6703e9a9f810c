import { useState } from "react";
import { Button } from "react-bootstrap";
import type { Schemas } from "../../api/client";
import { type Stack, useStacks, useUsable } from "../../questions/bench";
import { endsById, usableOf } from "../../state/asks";
import type { Laid } from "../../state/bench";
import { Fault } from "../../ui/Fault";
import { never } from "../../ui/never";
import { words } from "../../words";
import { glassNames } from "../../words/glassNames";
import { signedStops, sumTime } from "../../words/times";
import { stacksOf } from "./asks";
import "./ways.css";

interface Props {
  laid: Laid;
  target: Target;
  /** The target is the middle of an aim, not a time. */
  intoAim: boolean;
  /** With how it is said in a line. */
  onTake: (stack: Stack, turned: Record<string, number>, how: string) => void;
}

export type Target = Schemas["TargetInput"];

const SHOWN = 3;
const REASONS = 2;

/** Other ways to this time with the glass in the bag: the few that matter, each with its reason. */
export function Alternatives({ laid, target, intoAim, onTake }: Props) {
  const [all, setAll] = useState(false);
  // A stack says how far to turn its variable glass: nothing is asked before it is known how far that goes.
  const turning = usableOf(laid);
  const usable = useUsable(turning);
  const known = turning === null || usable.shown !== undefined;
  const reply = useStacks(known ? stacksOf(laid, target, endsById(laid, usable.shown?.ends)) : null);
  const waits = usable.stale || reply.stale;
  const found = reply.shown;
  const failed = [usable, reply].find((question) => question.error !== null);
  if (failed) return <Fault error={failed.error} again={failed.again} />;
  if (!found) return null;
  const ways = others(found.stacks, laid.bench.floating === "time");
  const stacks = ways.slice(0, all ? ways.length : SHOWN);
  const name = (id: string) => laid.bag.find((glass) => glass.id === id)?.name ?? words.alternatives.gone;
  const kindOf = (id: string) => laid.bag.find((glass) => glass.id === id)?.kind ?? null;
  const how = (stack: Stack) =>
    `${glassNames(stack.glass.map((id) => ({ name: name(id), kind: kindOf(id), stops: stack.turned ?? 0 })))}, f/${stack.aperture}, ISO ${stack.iso}`;
  const turns = (stack: Stack): Record<string, number> => {
    const variable = laid.bag.find((glass) => glass.kind === "variable" && stack.glass.includes(glass.id));
    return variable && stack.turned != null ? { [variable.id]: stack.turned } : {};
  };
  const title = intoAim
    ? words.alternatives.intoAim
    : words.alternatives.title(sumTime(target.seconds, laid.dialLimit));
  return (
    <section className="alternatives" aria-label={title} data-stale={waits || undefined}>
      <h3>{title}</h3>
      {found.none_because && <p>{found.none_because}</p>}
      {found.none_because && found.nearest && (
        <Row
          dialLimit={laid.dialLimit}
          stack={found.nearest}
          how={how(found.nearest)}
          waits={waits}
          onTake={() => onTake(found.nearest ?? never(), {}, how(found.nearest ?? never()))}
          nearest
        />
      )}
      {stacks.map((stack) => (
        <Row
          dialLimit={laid.dialLimit}
          key={[...stack.glass, stack.aperture, stack.iso].join()}
          stack={stack}
          how={how(stack)}
          waits={waits}
          onTake={() => onTake(stack, turns(stack), how(stack))}
        />
      ))}
      {ways.length > SHOWN && (
        <Button variant="link" className="plain-link" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? words.alternatives.fewer : words.alternatives.all(ways.length)}
        </Button>
      )}
    </section>
  );
}

/** The best stack of each set of glass; the set on the lens is left out while it is what gives this time. */
function others(stacks: Stack[], givesIt: boolean): Stack[] {
  const met = new Set<string>();
  return stacks.filter((stack) => {
    const set = stack.glass.toSorted().join();
    if (met.has(set) || (stack.hand_moves === 0 && givesIt)) return false;
    met.add(set);
    return true;
  });
}

interface RowProps {
  stack: Stack;
  how: string;
  /** It answers what was asked before: to look at, not to take. */
  waits: boolean;
  onTake: () => void;
  nearest?: boolean;
  /** The longest time on the dial [s]. */
  dialLimit: number;
}

function Row({ stack, how, dialLimit, waits, onTake, nearest }: RowProps) {
  const why = nearest ? [words.alternatives.nearest] : stack.reasons.slice(0, REASONS).map((reason) => reason.text);
  const off = Math.abs(stack.error_stops) > 0.05 ? [signedStops(stack.error_stops)] : [];
  const says = [...why, ...off].join(", ");
  const moves = stack.changes === 0 ? "" : words.alternatives.moves(stack.changes);
  return (
    <Button variant="quiet" className="alternative" disabled={waits} onClick={onTake}>
      <strong>{sumTime(stack.seconds, dialLimit)}</strong>
      <span className="alternative-how">{how}</span>
      <span className="alternative-why">{[says, moves].filter((part) => part !== "").join("; ")}</span>
    </Button>
  );
}
