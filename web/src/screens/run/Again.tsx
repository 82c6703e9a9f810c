import { Button } from "react-bootstrap";
import { Link } from "react-router";
import { type Cause, changeFrame, type Frame } from "../../state/frames";
import { Fault } from "../../ui/Fault";
import { Choice } from "../../ui/fields";
import { runWords } from "../../words/run";
import type { useOffer } from "./offer";

const CAUSES: readonly Cause[] = ["scene", "filter", "taste"];
const say = runWords.correct;

/** After a verdict: the corrected frame in one tap, with what it is corrected by, and where the error belongs. */
export function Again({
  frame,
  offered: { offer, error, again },
}: {
  frame: Frame;
  offered: ReturnType<typeof useOffer>;
}) {
  const because = frame.review?.because ?? null;
  const filter = frame.stack.filter((glass) => glass.kind === "solid" && !glass.in_reading);
  const belongs = (cause: Cause) =>
    void changeFrame(frame.id, (held) =>
      held.review ? { ...held, review: { ...held.review, because: cause } } : undefined,
    );
  return (
    <div className="again">
      <Fault error={error} again={again} />
      {offer && (
        <>
          <Button variant="signal" onClick={() => offer.arm(because)}>
            {say.again(offer.time)}
          </Button>
          <p className="mb-0">{offer.step}</p>
        </>
      )}
      {Math.abs(frame.review?.came_out ?? 0) >= WORTH_ASKING && (
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
