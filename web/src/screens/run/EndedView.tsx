import { Button } from "react-bootstrap";
import { Link } from "wouter";
import { DryFrame } from "../../parts/dryrun/DryFrame";
import { LightPath } from "../../parts/lightwatch/LightPath";
import { NoteField } from "../../parts/review/NoteField";
import { ReviewPanel } from "../../parts/review/ReviewPanel";
import { NeedsSignal } from "../../parts/takealong/NeedsSignal";
import { useSimulatedPicture } from "../../questions/run";
import type { Armed } from "../../state/armed";
import { sceneOf } from "../../state/asks";
import { useBench } from "../../state/bench";
import { type Frame, onlyTimed, zoneOf } from "../../state/frames";
import { change, darkFrame, hasNext, rearm, takeBack } from "../../state/running";
import { useSession } from "../../state/session";
import { words } from "../../words";
import { placeClock } from "../../words/clock";
import { logWords } from "../../words/log";
import { runWords } from "../../words/run";
import { actualTime, askedText, plannedTime, signedStops, timeText } from "../../words/times";
import { Again } from "./Again";
import { useOffer } from "./offer";
import { PlanStaff } from "./PlanStaff";
import { QueueLine } from "./Series";

/** From here on hot specks are worth a dark frame, where a capped frame has not measured it [s]. */
const DARK_FROM = 60;

function darkFrom({ list }: Armed): number | null {
  const measured = list?.body?.["dark_from_s"];
  return typeof measured === "number" ? measured : null;
}

/** The shutter is closed: what was planned, what really happened, what that means, and what comes next. */
export function EndedView({ frame, armed }: { frame: Frame; armed: Armed }) {
  const { signedIn, practice } = useSession();
  const aborted = frame.state === "aborted";
  const actual = frame.actual_seconds ?? 0;
  const asked = askedText(frame);
  const purpose = frame.run?.purpose ?? "frame";
  const film = frame.run?.film != null;
  const say = runWords;
  const offered = useOffer(frame, armed);
  return (
    <div className="run">
      <PlanStaff plan={frame} elapsed={actual < 1 ? actual : Math.round(actual)} />
      <section className="run-main" aria-label={say.closedTitle}>
        <h1>{aborted ? say.abortedTitle : say.closedTitle}</h1>
        <p className="run-result" data-testid="run-result">
          {aborted ? timeText(Math.max(actual, 0.01)) : (frame.error?.text ?? timeText(actual))}
        </p>
        {(armed.queue?.way === "lucky" || armed.queue?.burst === true) && (
          <QueueLine queue={armed.queue} busyUntil={null} zone={zoneOf(frame)} />
        )}
        {armed.busyUntil !== null && (
          <p className="run-note">{say.busyUntil(placeClock(Date.parse(armed.busyUntil), zoneOf(frame), "seconds"))}</p>
        )}
        <table className="sum run-sum">
          <tbody>
            <tr>
              <th scope="row">{say.plan}</th>
              <td>{plannedTime(frame.answer)}</td>
            </tr>
            {asked !== null && (
              <tr>
                <th scope="row">{say.lightAsked}</th>
                <td>{asked}</td>
              </tr>
            )}
            <tr>
              <th scope="row">{say.real}</th>
              <td data-testid="run-real">{actualTime(frame)}</td>
            </tr>
            {frame.error && !aborted && (
              <tr>
                <th scope="row">{say.difference}</th>
                <td>{words.staff.stops(signedStops(frame.error.stops))}</td>
              </tr>
            )}
          </tbody>
        </table>
        {offered.lit && <LightPath lit={offered.lit} seconds={actual} />}
        {frame.run?.watched === false && <p className="run-note">{say.truth.unwatched}</p>}
        {practice && !aborted && <DryFrame frame={frame} />}
        {!aborted && purpose !== "dark" && (
          <>
            <div className="run-review">
              <ReviewPanel frame={frame} brief />
              <Link to={`/log/frame/${frame.id}`} className="plain-link">
                {logWords.review.more}
              </Link>
            </div>
            <Again frame={frame} offered={offered} />
          </>
        )}
        <div className="run-after">
          <Onwards armed={armed} quietly={offered.offer !== null || (purpose === "trial" && frame.review == null)} />
          <Button variant="quiet" onClick={() => void takeBack(frame)}>
            {say.takeBack}
          </Button>
          <Link to="/log" className="btn btn-quiet">
            {say.toLog}
          </Link>
          <Link to="/" className="btn btn-quiet">
            {words.toBench}
          </Link>
        </div>
        <NoteField key={frame.id} frame={frame} />
        {!practice && <p className="quiet">{signedIn ? say.kept : say.keptHere}</p>}
        {!aborted && purpose !== "dark" && !film && actual >= (darkFrom(armed) ?? DARK_FROM) && (
          <div className="rehearse">
            <p>{say.darkRemind}</p>
            <Button variant="quiet" onClick={() => darkFrame(frame)}>
              {say.darkArm}
            </Button>
          </div>
        )}
        {frame.run?.device === "simulated" && !aborted && !onlyTimed(frame) && <SimulatedPicture frame={frame} />}
      </section>
    </div>
  );
}

/** What comes after: the frame a rehearsal was for, the next of the queue, a verdict in a lucky series, or the same again. */
function Onwards({ armed, quietly }: { armed: Armed; quietly: boolean }) {
  const say = runWords;
  const { queue, after } = armed;
  if (after)
    return (
      <Button variant={quietly ? "quiet" : "signal"} onClick={rearm}>
        {say.backToFrame}
      </Button>
    );
  if (queue?.way === "lucky") {
    const next = (good: number, dropped: number) =>
      change({ finished: null, queue: { ...queue, kept: queue.kept + good, dropped: queue.dropped + dropped } });
    return (
      <>
        <Button variant="signal" onClick={() => next(1, 0)}>
          {say.series.keep}
        </Button>
        <Button variant="quiet" onClick={() => next(0, 1)}>
          {say.series.drop}
        </Button>
      </>
    );
  }
  if (queue && hasNext(queue))
    return (
      <Button variant="signal" onClick={() => change({ finished: null, queue: { ...queue, at: queue.at + 1 } })}>
        {say.series.next(queue.at + 2, queue.frames.length)}
      </Button>
    );
  return (
    <Button variant={quietly ? "quiet" : "signal"} onClick={() => change({ finished: null, queue: null })}>
      {say.again}
    </Button>
  );
}

/** What the simulated camera hands over: a drawing as bright as the frame really came out. */
function SimulatedPicture({ frame }: { frame: Frame }) {
  const [laid] = useBench();
  const picture = useSimulatedPicture(
    laid && {
      scene: { ...sceneOf(laid), wants: [], seconds: frame.actual_seconds ?? 1 },
      gathered_stops: frame.error?.stops ?? 0,
      glass: frame.stack.map((glass) => ({ name: glass.name, stops: glass.stops, offset: glass.offset ?? 0 })),
      aperture: frame.settings.aperture,
      iso: frame.settings.iso,
      taken_at: frame.opened_at,
      seed: 7,
    },
  );
  if (!picture) return <NeedsSignal />;
  return (
    <figure className="simulated-picture">
      <span className="photo">
        <img src={picture} alt={runWords.pictureAlt} />
      </span>
      <figcaption>
        {runWords.picture}{" "}
        <a
          className="plain-link"
          href={picture}
          download={`jackstaff-${frame.opened_at.slice(0, 19).replaceAll(":", "")}.jpg`}
        >
          {runWords.pictureSave}
        </a>
      </figcaption>
    </figure>
  );
}
