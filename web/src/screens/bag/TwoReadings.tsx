import { Button } from "react-bootstrap";
import { useState } from "react";
import { TimeText } from "../../parts/meter/TimeText";
import { useShutterText } from "../../parts/meter/typedTime";
import { useLadders } from "../../questions/bench";
import { useMeasured } from "../../questions/kit";
import { amend } from "../../state/amend";
import { useBench } from "../../state/bench";
import type { ItemOf } from "../../state/kit";
import { Fault } from "../../ui/Fault";
import { bagWords } from "../../words/bag";
import { markText, timeText } from "../../words/times";
import { StepPicture } from "./StepPicture";
import { today } from "../../words/zone";
import { FAR_STOPS } from "./ways";

const say = bagWords.measuring;
/** Marks either side of what the label would read. */
const EITHER_SIDE = 4;

/** A filter measured by the meter: without it, with it, and what lies between. */
export function TwoReadings({ item, onDone }: { item: ItemOf<"glass">; onDone: () => void }) {
  const [laid] = useBench();
  const step = laid?.step ?? "third";
  const dial = laid?.dialLimit ?? 30;
  const marks = useLadders(step, dial)?.shutter ?? [];
  const without = useShutterText("", step, dial);
  const through = useShutterText("", step, dial);
  const [other, setOther] = useState(false);
  const { facts } = item;
  const expected = without.read && without.read.seconds * 2 ** facts.stops;
  const measured = useMeasured(
    without.read && through.read ? { without: without.read.label, with_it: through.read.label, step } : null,
  );
  const deepest = laid?.body?.facts.sees_through_stops ?? null;
  const near = expected === null ? [] : nearest(marks, expected);
  const found = measured.answer;
  const use = async () => {
    if (!found || !without.read || !through.read) return;
    const offset = Math.round((found.stops - facts.stops) * 100) / 100;
    const measurement = {
      offset,
      give_or_take: Math.round(found.give_or_take * 100) / 100,
      evidence: "two_readings",
      measured_on: today(),
      reading_without: without.read.label.slice(0, 12),
      reading_with: through.read.label.slice(0, 12),
    };
    await amend(item, measurement, say.used(item.name, (facts.stops + offset).toFixed(1)));
    onDone();
  };
  const longest = marks.at(-1)?.exact ?? dial;
  return (
    <div className="steps">
      {deepest !== null && facts.stops > deepest && facts.kind === "solid" && (
        <p className="mb-0">{say.dense(laid?.body?.name ?? "", String(deepest), String(facts.stops))}</p>
      )}
      <ol>
        <li>
          <StepPicture show="wall" />
          <p>{say.steps.wall}</p>
        </li>
        <li>
          <StepPicture show="bare" />
          <div>
            <TimeText id="measure-without" label={say.steps.without} time={without} />
            {laid?.bench.meter === "camera" && !without.read && (
              <Button variant="choice" onClick={() => without.type(laid.bench.shutter)}>
                {say.steps.bench(laid.bench.shutter)}
              </Button>
            )}
          </div>
        </li>
        <li>
          <StepPicture show="filtered" />
          <div>
            <p id="measure-with" className="form-label">
              {say.steps.with(facts.stops_max === null ? "" : say.steps.weakEnd)}
            </p>
            {expected === null && <p className="quiet mb-0">{say.steps.first}</p>}
            {expected !== null && expected > longest * 1.2 && (
              <p className="mb-0">{say.steps.slow(timeText(expected))}</p>
            )}
            {expected !== null && !other && (
              <div className="mark-row" role="group" aria-labelledby="measure-with">
                {near.map((mark) => (
                  <Button
                    key={mark.label}
                    variant="choice"
                    aria-pressed={through.read?.label === markText(mark.label)}
                    onClick={() => through.type(markText(mark.label))}
                  >
                    {markText(mark.label)}
                  </Button>
                ))}
                <Button variant="quiet" onClick={() => setOther(true)}>
                  {say.steps.other}
                </Button>
              </div>
            )}
            {other && <TimeText id="measure-through" label={say.steps.other} time={through} />}
          </div>
        </li>
      </ol>
      <Fault error={measured.error} />
      {found && (
        <div className="measure-found" role="status">
          <p className="pair-strength">{say.result(found.stops.toFixed(1), found.give_or_take.toFixed(1))}</p>
          <p className="mb-0">{againstLabel(found.stops - facts.stops)}</p>
          {Math.abs(found.stops - facts.stops) > FAR_STOPS && <p className="fault mb-0">{say.far}</p>}
          <Button variant="signal" onClick={() => void use()}>
            {say.use}
          </Button>
        </div>
      )}
    </div>
  );
}

function againstLabel(offset: number): string {
  const size = Math.abs(offset).toFixed(1);
  if (Number(size) === 0) return say.against(say.same);
  return say.against(offset > 0 ? say.denser(size) : say.weaker(size));
}

function nearest<Mark extends { exact: number }>(marks: readonly Mark[], seconds: number): Mark[] {
  const far = (mark: Mark) => Math.abs(Math.log2(mark.exact / seconds));
  const at = marks.reduce((best, mark, place) => (far(mark) < far(marks[best] ?? mark) ? place : best), 0);
  return marks.slice(Math.max(0, at - EITHER_SIDE), at + EITHER_SIDE + 1);
}
