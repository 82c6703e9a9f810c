import { Button } from "react-bootstrap";
import { Link } from "react-router";
import { useExposure } from "../../questions/bench";
import { useAgain } from "../../questions/run";
import { againOf, armAgain, type Cause, correctedOf } from "../../state/again";
import { changeFrame, type Frame } from "../../state/frames";
import type { Armed } from "../../state/running";
import { Fault } from "../../ui/Fault";
import { Choice } from "../../ui/fields";
import { useNow } from "../../ui/useNow";
import { runWords } from "../../words/run";
import { exactTime, markText, signedStops } from "../../words/times";

const CAUSES: readonly Cause[] = ["scene", "filter", "taste"];
const say = runWords.correct;
/** Half a minute of moving light is as fine as a correction is. */
const GRAIN = 30_000;

/** After a verdict: the corrected frame in one tap, with what it is corrected by, and where the error belongs. */
export function Again({ frame, armed }: { frame: Frame; armed: Armed }) {
  const now = Math.floor(useNow(GRAIN) / GRAIN) * GRAIN;
  const asked = againOf(armed, frame);
  const correction = useAgain(asked).answer;
  const question = correction ? correctedOf(armed, frame, correction, now) : null;
  const corrected = useExposure(question);
  const { answer } = corrected;
  if (!asked || !question || !correction) return null;
  const because = frame.review?.because ?? null;
  const changed = Math.abs(correction.stops - (frame.run?.correction_stops ?? 0)) > 0.02;
  const time = answer && (answer.dial_mark === null ? exactTime(answer.set_seconds) : markText(answer.dial_mark));
  const filter = frame.stack.filter((glass) => glass.kind === "solid" && !glass.in_reading);
  const belongs = (cause: Cause) =>
    void changeFrame(frame.id, (held) =>
      held.review ? { ...held, review: { ...held.review, because: cause } } : undefined,
    );
  return (
    <div className="again">
      <Fault error={corrected.error} again={corrected.again} />
      {changed && answer && time && (
        <>
          <Button variant="signal" onClick={() => armAgain(armed, question, answer, because)}>
            {say.again(time)}
          </Button>
          <p className="mb-0">{say.step(correction.name, signedStops(correction.stops))}</p>
        </>
      )}
      {Math.abs(asked.came_out) >= WORTH_ASKING && (
        <div className="again-cause">
          <Choice
            name="because"
            label={say.because}
            value={because}
            choices={CAUSES.map((cause) => [cause, say.causes[cause]] as const)}
            onValue={belongs}
          />
          {because === "filter" &&
            filter.map((glass) =>
              glass.id == null ? null : (
                <Link key={glass.id} to={`/bag?open=${glass.id}`} className="plain-link">
                  {say.measured(glass.name)}
                </Link>
              ),
            )}
        </div>
      )}
    </div>
  );
}

/** Less than this is nobody's fault [stops]. */
const WORTH_ASKING = 0.3;
