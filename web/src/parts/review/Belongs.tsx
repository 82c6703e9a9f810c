import { Link } from "wouter";
import { type Cause, changeFrame, type Frame } from "../../state/frames";
import { Choice } from "../../ui/fields";
import { runWords } from "../../words/run";

const CAUSES: readonly Cause[] = ["scene", "filter", "taste"];
const say = runWords.correct;
/** Less than this is nobody's fault [stops]. */
const WORTH_ASKING = 0.3;

/** Where an error of exposure belongs: asked once there is one, and what the filter measures where it is the filter's. */
export function Belongs({ frame }: { frame: Frame }) {
  if (Math.abs(frame.review?.error_stops ?? 0) < WORTH_ASKING) return null;
  const because = frame.review?.because ?? null;
  const filters = frame.stack.filter((glass) => glass.kind === "solid" && !glass.in_reading);
  const belongs = (cause: Cause) =>
    void changeFrame(frame.id, (held) =>
      held.review ? { ...held, review: { ...held.review, because: cause } } : undefined,
    );
  return (
    <div className="again-cause">
      <Choice
        name="because"
        label={say.because}
        value={because}
        choices={CAUSES.map((cause) => [cause, say.causes[cause]] as const)}
        onValue={belongs}
      />
      {because === "filter" &&
        filters.map((glass) =>
          glass.id == null ? null : (
            <Link key={glass.id} to={`/bag?open=${glass.id}`} className="plain-link">
              {say.measured(glass.name)}
            </Link>
          ),
        )}
    </div>
  );
}
