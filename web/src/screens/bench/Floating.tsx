import type { ReactNode } from "react";
import { Button } from "react-bootstrap";
import type { Steered } from "../../questions/bench";
import type { Floating as What } from "../../state/bench";
import { words } from "../../words";
import { markText, signedStops, sumTime, timeText } from "../../words/times";
import { residueText } from "./residueText";
import type { Settled } from "./settled";

interface Props {
  what: Exclude<What, "time">;
  steered: Steered | undefined;
  /** Another question's answer: it greys, and cannot be taken. */
  stale: boolean;
  target: number;
  /** The mark an aperture or ISO stands at, and what the held time then comes out as [stops, + brighter]. */
  settled: Settled | null;
  residue: number | undefined;
  /** Take a mark either side: it is pinned and the time floats again. */
  /** The longest time on the dial [s]. */
  dialLimit: number;
  onTake: (mark: string) => void;
  /** Another time to work it out for. */
  onTarget: () => void;
  children?: ReactNode;
}

/** What floats, large, with the marks either side and what each costs. */
export function Floating({
  what,
  steered,
  stale,
  target,
  dialLimit,
  settled,
  residue,
  onTake,
  onTarget,
  children,
}: Props) {
  if (!steered)
    return (
      <div className="answer" data-stale>
        <h2>{words.pins.answer[what]}</h2>
        <p className="answer-sure">{words.bench.waiting}</p>
      </div>
    );
  const best = steered.nearest.toSorted((a, b) => Math.abs(a.cost_stops) - Math.abs(b.cost_stops))[0];
  const missing = steered.missing_stops;
  return (
    <div className="answer" data-stale={stale || undefined}>
      <h2>{words.pins.answer[what]}</h2>
      <p className="answer-time" aria-live="polite" data-testid="answer-floating">
        {what === "stack" ? (
          <>
            {Math.max(0, steered.value).toFixed(1)}
            <small>{words.pins.ofGlass}</small>
          </>
        ) : (
          <span>{marked(what, settled?.mark ?? best?.mark) ?? timeText(steered.value)}</span>
        )}
      </p>
      <p className="answer-sure">
        {words.pins.holding(sumTime(target, dialLimit))}{" "}
        <Button variant="link" className="plain-link" onClick={onTarget}>
          {words.pins.target}
        </Button>{" "}
        {settled?.atEnd && (what === "aperture" || what === "iso") && (
          <strong>{words.pins.end[what](settled.mark)}</strong>
        )}{" "}
        {settled && residue !== undefined && <span data-testid="answer-cost">{residueText(residue)}</span>}
        {!settled && missing != null && (
          <strong>{words.pins.missing[what](missing.toFixed(1), steered.value < 0)}</strong>
        )}
      </p>
      {what !== "stack" && missing == null && steered.nearest.length > 0 && (
        <div className="nearest" role="group" aria-label={words.pins.either}>
          {steered.nearest.map((side) => (
            <Button key={side.mark} variant="quiet" disabled={stale} onClick={() => onTake(side.mark)}>
              <strong>{marked(what, side.mark)}</strong>
              <span>{words.pins.cost(signedStops(side.cost_stops))}</span>
            </Button>
          ))}
        </div>
      )}
      {children}
    </div>
  );
}

function marked(what: Exclude<What, "time">, mark: string | undefined): string | undefined {
  if (mark === undefined) return undefined;
  return { aperture: `f/${mark}`, iso: `ISO ${mark}`, reading: markText(mark), stack: mark }[what];
}
