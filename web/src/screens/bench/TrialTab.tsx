import { useState } from "react";
import { Button } from "react-bootstrap";
import type { Exposure } from "../../questions/bench";
import { useTrial } from "../../questions/extras";
import { amend } from "../../state/amend";
import { type Laid, wasOn } from "../../state/bench";
import { NumberField } from "../../ui/NumberField";
import { typed } from "../../ui/typed";
import { dialogWords } from "../../words/dialogs";
import { signedStops, timeText } from "../../words/times";
import { Answered } from "./ExtraParts";

/** A trial scaled up, kept as what the glass measures when it stood alone. */
export function TrialTab({ laid, summed }: { laid: Laid; summed: Exposure }) {
  const [seconds, setSeconds] = useState(String(laid.dialLimit));
  // Nobody has judged it yet: what the filter measures waits for that.
  const [came, setCame] = useState("");
  const say = dialogWords.extras.trial;
  const [took, stops] = [typed(seconds), typed(came)];
  const question =
    took !== undefined && stops !== undefined
      ? { trial_seconds: took, error_stops: stops, sum_seconds: summed.seconds }
      : null;
  const trial = useTrial(question);
  const adding = laid.stack.filter((glass) => !wasOn(laid, glass));
  const alone = adding.length === 1 ? laid.items.find((item) => item.id === adding[0]?.id) : undefined;
  const keepIt = async () => {
    if (!alone || !trial.answer) return;
    const facts = {
      offset: (alone.facts.offset ?? 0) + trial.answer.offset,
      give_or_take: trial.answer.offset_give_or_take,
      evidence: "trial",
      measured_on: new Date().toISOString().slice(0, 10),
    };
    await amend(alone, facts, say.kept(alone.name));
  };
  return (
    <div className="extra">
      <p>{say.intro}</p>
      <div className="thirds">
        <NumberField id="trial-seconds" label={say.time} value={seconds} onChange={setSeconds} />
        <NumberField id="trial-came" label={say.came} value={came} onChange={setCame} />
      </div>
      <Answered reply={trial}>
        {trial.shown && (
          <>
            <p className="extra-answer">{say.right(timeText(trial.shown.seconds))}</p>
            <p>{say.says(signedStops(trial.shown.offset), trial.shown.offset_give_or_take.toFixed(1))}</p>
            {alone ? (
              <Button variant="quiet" disabled={!trial.answer} onClick={() => void keepIt()}>
                {say.keep(alone.name)}
              </Button>
            ) : (
              adding.length > 1 && <p className="quiet">{say.several}</p>
            )}
          </>
        )}
      </Answered>
    </div>
  );
}
