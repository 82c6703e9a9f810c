import { useState } from "react";
import { Button } from "react-bootstrap";
import { Link } from "wouter";
import { DryFrame } from "../../parts/dryrun/DryFrame";
import { LightPath } from "../../parts/lightwatch/LightPath";
import { SceneGlance } from "../../parts/looks/SceneGlance";
import { NoteField } from "../../parts/review/NoteField";
import { Findings } from "../../parts/review/Findings";
import { VerdictScale } from "../../parts/review/VerdictScale";
import type { Armed } from "../../state/armed";
import { useBench } from "../../state/bench";
import { type Frame, onlyTimed, zoneOf } from "../../state/frames";
import { darkFrame, takeBack } from "../../state/running";
import { useSession } from "../../state/session";
import { SidePanel } from "../../ui/SidePanel";
import { words } from "../../words";
import { placeClock } from "../../words/clock";
import { logWords } from "../../words/log";
import { runWords } from "../../words/run";
import { actualTime, askedText, plannedTime, signedStops, timeText } from "../../words/times";
import { Again } from "./Again";
import { useOffer } from "./offer";
import { Onwards } from "./Onwards";
import { Reframe } from "./Reframe";
import { QueueLine } from "./Series";
import { SimulatedPicture } from "./SimulatedPicture";

/** From here on hot specks are worth a dark frame, where a capped frame has not measured it [s]. */
const DARK_FROM = 60;

function darkFrom({ list }: Armed): number | null {
  const measured = list?.body?.["dark_from_s"];
  return typeof measured === "number" ? measured : null;
}

/** The shutter is closed: how it came out, and the frame that follows. */
export function EndedView({ frame, armed }: { frame: Frame; armed: Armed }) {
  const { signedIn, practice } = useSession();
  const [laid] = useBench();
  const [more, setMore] = useState(false);
  const aborted = frame.state === "aborted";
  const actual = frame.actual_seconds ?? 0;
  const purpose = frame.run?.purpose ?? "frame";
  const judged = !aborted && purpose !== "dark";
  const film = frame.run?.film != null;
  const say = runWords;
  const offered = useOffer(frame, armed);
  const because = frame.review?.because ?? null;
  const dark = !aborted && purpose !== "dark" && !film && actual >= (darkFrom(armed) ?? DARK_FROM);
  return (
    <div className="run run-ended" data-more={more || undefined}>
      <section className="run-head" aria-label={say.closedTitle}>
        <h1 data-testid="run-result">
          {aborted ? say.abortedAfter(timeText(Math.max(actual, 0.01))) : (frame.error?.text ?? timeText(actual))}
        </h1>
        <p className="quiet mb-0">
          {say.openFor} <span data-testid="run-real">{actualTime(frame)}</span>
          {`, ${say.plan.toLowerCase()} ${plannedTime(frame.answer)}`}
        </p>
        {(armed.queue?.way === "lucky" || armed.queue?.burst === true) && (
          <QueueLine queue={armed.queue} busyUntil={null} zone={zoneOf(frame)} />
        )}
        {armed.busyUntil !== null && (
          <p className="run-note">{say.busyUntil(placeClock(Date.parse(armed.busyUntil), zoneOf(frame), "seconds"))}</p>
        )}
        {frame.run?.watched === false && <p className="run-note">{say.truth.unwatched}</p>}
      </section>
      <div className="run-verdict">
        {judged && <VerdictScale frame={frame} />}
        {judged && <Again frame={frame} offered={offered} />}
      </div>
      <div className="run-picture">
        {laid && judged && !onlyTimed(frame) && (
          <SceneGlance laid={laid} seconds={actual} pulled={null} caption="" stops={frame.review?.error_stops ?? 0} />
        )}
        {practice && !aborted && <DryFrame frame={frame} />}
      </div>
      {more ? (
        <SidePanel title={say.seen} onClose={() => setMore(false)}>
          {judged && <Findings frame={frame} />}
          <NoteField key={frame.id} frame={frame} />
          <Facts frame={frame} aborted={aborted} />
          {offered.lit && <LightPath lit={offered.lit} seconds={actual} />}
          {dark && (
            <div className="rehearse">
              <p>{say.darkRemind}</p>
              <Button variant="quiet" onClick={() => darkFrame(frame)}>
                {say.darkArm}
              </Button>
            </div>
          )}
          {frame.run?.device === "simulated" && !aborted && !onlyTimed(frame) && <SimulatedPicture frame={frame} />}
          {!practice && <p className="quiet">{signedIn ? say.kept : say.keptHere}</p>}
          <p className="more-foot">
            {judged && (
              <Link to={`/log/frame/${frame.id}`} className="plain-link">
                {logWords.review.more}
              </Link>
            )}
            <Link to="/log" className="plain-link">
              {say.toLog}
            </Link>
          </p>
        </SidePanel>
      ) : (
        <div className="run-onwards">
          <Button variant="quiet" onClick={() => setMore(true)}>
            {say.seen}
          </Button>
          <Reframe />
        </div>
      )}
      <div className="run-action action-place">
        <Onwards armed={armed} offer={offered.offer} arm={() => offered.offer?.arm(because)} />
      </div>
      <footer className="moment-foot">
        <Button variant="quiet" onClick={() => void takeBack(frame)}>
          {say.takeBack}
        </Button>
        <Link to="/" className="plain-link">
          {say.doneToBench}
        </Link>
      </footer>
    </div>
  );
}

/** Planned against actual, line by line. */
function Facts({ frame, aborted }: { frame: Frame; aborted: boolean }) {
  const say = runWords;
  const asked = askedText(frame);
  return (
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
          <td>{actualTime(frame)}</td>
        </tr>
        {frame.error && !aborted && (
          <tr>
            <th scope="row">{say.difference}</th>
            <td>{words.staff.stops(signedStops(frame.error.stops))}</td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
