import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button } from "react-bootstrap";
import { answer, api } from "../../api/client";
import { amend } from "../../state/amend";
import { useKit } from "../../state/kit";
import { words } from "../../words";
import { signedStops, timeText } from "../../words/times";
import { NumberField } from "../../ui/NumberField";
import { Said } from "./ExtraParts";
import { typed } from "../../ui/typed";
import type { Laid } from "../../state/bench";
import { never } from "../../ui/never";
import type { Exposure } from "../../state/useBench";

/** A trial scaled up, kept as what the glass measures when it stood alone. */
export function TrialTab({ laid, summed }: { laid: Laid; summed: Exposure }) {
  const [seconds, setSeconds] = useState(String(laid.dialLimit));
  const [came, setCame] = useState("-1");
  const kit = useKit();
  const say = words.extras.trial;
  const [took, stops] = [typed(seconds), typed(came)];
  const question =
    took !== undefined && stops !== undefined
      ? { trial_seconds: took, came_out_stops: stops, sum_seconds: summed.seconds }
      : null;
  const trial = useQuery({
    queryKey: ["trial", question],
    queryFn: () => answer(api.POST("/api/trial", { body: question ?? never() })),
    enabled: question !== null,
    retry: false,
  });
  const adding = laid.stack.filter((glass) => !laid.bench.inReading.includes(glass.id));
  const alone = adding.length === 1 ? laid.items.find((item) => item.id === adding[0]?.id) : undefined;
  const keepIt = async () => {
    if (!alone || !trial.data) return;
    const facts = {
      offset: (alone.facts.offset ?? 0) + trial.data.offset,
      give_or_take: trial.data.offset_give_or_take,
      evidence: "trial",
      measured_on: new Date().toISOString().slice(0, 10),
    };
    await amend(kit, alone, facts, say.kept(alone.name));
  };
  return (
    <div className="extra">
      <p>{say.intro}</p>
      <div className="thirds">
        <NumberField id="trial-seconds" label={say.time} value={seconds} onChange={setSeconds} />
        <NumberField id="trial-came" label={say.came} value={came} onChange={setCame} />
      </div>
      <Said error={trial.error}>
        {trial.data && (
          <>
            <p className="extra-answer">{say.right(timeText(trial.data.seconds))}</p>
            <p>{say.says(signedStops(trial.data.offset), trial.data.offset_give_or_take.toFixed(1))}</p>
            {alone ? (
              <Button variant="quiet" onClick={() => void keepIt()}>
                {say.keep(alone.name)}
              </Button>
            ) : (
              adding.length > 1 && <p className="quiet">{say.several}</p>
            )}
          </>
        )}
      </Said>
    </div>
  );
}
