import { useState } from "react";
import { Button } from "react-bootstrap";
import { useLocation, useParams } from "wouter";
import type { Schemas } from "../../api/client";
import { LightPath } from "../../parts/lightwatch/LightPath";
import { useStory } from "../../parts/lightwatch/useStory";
import { NoteField } from "../../parts/review/NoteField";
import { ReviewPanel } from "../../parts/review/ReviewPanel";
import { FrameStaff } from "../../parts/staff/FrameStaff";
import { useReviewed } from "../../questions/log";
import { askLogFile } from "../../questions/logFiles";
import { useAgain } from "../../questions/run";
import { taughtBy } from "../../state/again";
import { readingOf } from "../../state/asks";
import { chosen, itemsOf } from "../../state/bag";
import { type Laid, useBench } from "../../state/bench";
import { documentOf, type Frame, useFrame } from "../../state/frames";
import { benchOf } from "../../state/fromFrame";
import { useKit } from "../../state/kit";
import { Fault } from "../../ui/Fault";
import { faultText } from "../../ui/faultText";
import { saveAs } from "../../ui/saveAs";
import { say as toast } from "../../ui/say";
import { logWords } from "../../words/log";
import { actualTime, plannedTime, signedStops, timeText } from "../../words/times";
import { Conditions } from "./Conditions";
import { baseText, closedText, glassText, settingsText, verdictText, whenText } from "./frameText";
import { NoFrame } from "./Gone";
import { Picture } from "./Picture";
import { useRemoveFrame } from "./useRemoveFrame";

const say = logWords;
/** Nothing is corrected by less [stops]. */
const LEAST_STOPS = 0.02;

/** One frame: what it was, how it came out, what that teaches. */
export function FramePage() {
  const { id = null } = useParams();
  const frame = useFrame(id);
  if (frame === undefined) return <p className="waiting">{say.loading}</p>;
  if (!frame) return <NoFrame />;
  return <OneFrame key={frame.id} frame={frame} />;
}

function OneFrame({ frame }: { frame: Frame }) {
  const [laid, move] = useBench();
  const remove = useRemoveFrame();
  const [, navigate] = useLocation();
  const lit = useStory(frame);
  const taught = useAgain(lit === undefined ? null : taughtBy(frame, 0, lit));
  const correction = taught.answer && Math.abs(taught.answer.stops) > LEAST_STOPS ? taught.answer : null;
  const back = (corrected: typeof correction) => {
    move({ do: "set", change: benchOf(frame, laid?.bag ?? [], corrected) });
    navigate("/");
  };
  const sidecar = async () => {
    const text = await askLogFile("xmp", [frame]);
    saveAs(`jackstaff-${frame.opened_at.slice(0, 19).replaceAll(":", "")}.xmp`, new Blob([text]));
  };
  return (
    <div className="frame-page">
      <div className="frame-picture">
        <Picture frame={frame} />
      </div>
      <section className="frame-facts" aria-label={whenText(frame)}>
        <h1>{whenText(frame)}</h1>
        <p className="frame-set">
          <strong>
            {settingsText(frame)}, {actualTime(frame)}
          </strong>
          <span>{glassText(frame)}</span>
          <span className="quiet">
            {[
              baseText(frame),
              `${say.columns.planned.toLowerCase()} ${plannedTime(frame.answer)}${closedText(frame) && `, ${closedText(frame)}`}`,
            ]
              .filter(Boolean)
              .join("; ")}
          </span>
        </p>
        {frame.refused != null && <p className="fault mb-0">{say.refused(frame.refused)}</p>}
        <FrameStaff frame={frame} />
        {lit && <LightPath lit={lit} seconds={frame.actual_seconds ?? 1} />}
      </section>
      <section className="frame-more" aria-label={say.picture.title}>
        <NoteField frame={frame} />
        <div className="frame-actions">
          {correction && (
            <Button variant="signal" onClick={() => back(correction)}>
              {say.benchCorrected(correction.name, signedStops(correction.stops))}
            </Button>
          )}
          <Button variant="quiet" onClick={() => back(null)}>
            {correction ? say.benchAsItWas : say.benchIt}
          </Button>
          <Button
            variant="quiet"
            onClick={() => void sidecar().catch((error: unknown) => toast({ text: faultText(error) }))}
          >
            {say.sidecar}
          </Button>
          <Button variant="quiet" onClick={() => void remove(frame)} disabled={frame.state === "open"}>
            {say.remove}
          </Button>
        </div>
      </section>
      <div className="frame-review">
        <ReviewPanel frame={frame} />
        <Conditions frame={frame} />
      </div>
      <Learnt frame={frame} laid={laid} />
    </div>
  );
}

/** The time for next time, cause and cure, and what to do in the edit: all of it asked of the core. */
function Learnt({ frame, laid }: { frame: Frame; laid: Laid | null }) {
  const [byBench, setByBench] = useState(false);
  const kit = useKit();
  const body = chosen(kit.items, "body", frame.conditions?.body_id ?? null);
  const on = itemsOf(kit.items, "glass").filter((piece) => frame.stack.some((each) => each.id === piece.id));
  const question: Schemas["ReviewedInput"] = {
    frame: documentOf(frame),
    light_stops: 0,
    now: byBench && laid ? readingOf(laid) : null,
    step: frame.reading.step,
    sensor_height_mm: body?.facts.sensor_height_mm ?? 24,
    pitch_deg: frame.conditions?.pitch_deg == null ? null : Math.max(-30, Math.min(30, frame.conditions.pitch_deg)),
    glass: on.map(({ facts }) => ({
      cast: facts.cast,
      mired: facts.cast_mired,
      green: facts.cast_green,
      corner_stops: facts.corner_stops,
    })),
  };
  const reviewed = useReviewed(question);
  const { next, remarks = [], editing = [] } = reviewed.shown ?? {};
  return (
    <aside className="frame-learnt" data-stale={reviewed.stale || undefined} aria-label={say.pages.lessons}>
      <section aria-label={say.next.title}>
        <h2>{say.next.title}</h2>
        {next ? (
          <>
            <p className="frame-next" data-testid="next-time">
              {next.mark ?? timeText(next.seconds)}
              {next.mark && !next.mark.includes("/") && " s"}
            </p>
            <p className="mb-0">{next.text}</p>
            {byBench && <p className="quiet mb-0">{say.next.light(signedStops(next.light_stops))}</p>}
            <div role="group" aria-label={say.next.title} className="frame-light">
              {[false, true].map((bench) => (
                <Button
                  key={String(bench)}
                  variant="segment"
                  size="sm"
                  active={byBench === bench}
                  aria-pressed={byBench === bench}
                  onClick={() => setByBench(bench)}
                >
                  {bench ? say.next.byBench : say.next.asItWas}
                </Button>
              ))}
            </div>
          </>
        ) : (
          <p className="quiet mb-0">{frame.review?.error_stops == null ? say.next.none : verdictText(null)}</p>
        )}
        <Fault error={reviewed.error} again={reviewed.again} />
      </section>
      {remarks.length > 0 && (
        <section aria-label={say.remarks}>
          <h2>{say.remarks}</h2>
          <dl className="frame-remarks">
            {remarks.map((remark) => (
              <div key={remark.code}>
                <dt>{remark.label}</dt>
                <dd>
                  {remark.cause} <strong>{remark.cure}</strong>
                </dd>
              </div>
            ))}
          </dl>
        </section>
      )}
      <section aria-label={say.editing.title}>
        <h2>{say.editing.title}</h2>
        {editing.length === 0 ? (
          <p className="quiet mb-0">{say.editing.none}</p>
        ) : (
          <ol className="frame-editing">
            {editing.map((remark) => (
              <li key={remark.code}>{remark.text}</li>
            ))}
          </ol>
        )}
      </section>
    </aside>
  );
}
