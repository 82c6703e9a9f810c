import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Link } from "react-router";
import type { Frame } from "../log/outbox";
import { useSession } from "../shell/useSession";
import { words } from "../words";
import { signedStops, timeText } from "../words/times";
import { PlanStaff } from "./PlanStaff";
import { annotate, rearm, takeBack } from "./running";

/** The shutter is closed: what was planned, what really happened, what that means. */
export function EndedView({ frame }: { frame: Frame }) {
  const session = useSession().data;
  const [note, setNote] = useState(frame.note);
  const aborted = frame.state === "aborted";
  const actual = frame.actual_seconds ?? 0;
  return (
    <div className="run">
      <PlanStaff plan={frame} elapsed={actual < 1 ? actual : Math.round(actual)} />
      <section className="run-main" aria-label={words.run.closedTitle}>
        <h1>{aborted ? words.run.abortedTitle : words.run.closedTitle}</h1>
        <p className="run-result" data-testid="run-result">
          {aborted ? timeText(Math.max(actual, 0.01)) : (frame.error?.text ?? timeText(actual))}
        </p>
        <table className="sum run-sum">
          <tbody>
            <tr>
              <th scope="row">{words.run.plan}</th>
              <td>{timeText(frame.answer.set_seconds)}</td>
            </tr>
            <tr>
              <th scope="row">{words.run.real}</th>
              <td>{actual < 1 ? timeText(Math.max(actual, 0.01)) : tenths(actual)}</td>
            </tr>
            {frame.error && !aborted && (
              <tr>
                <th scope="row">{words.run.difference}</th>
                <td>{words.staff.stops(signedStops(frame.error.stops))}</td>
              </tr>
            )}
          </tbody>
        </table>
        <Form.Group controlId="frame-note">
          <Form.Label>{words.run.note}</Form.Label>
          <Form.Control
            as="textarea"
            rows={2}
            maxLength={2000}
            placeholder={words.run.notePlaceholder}
            value={note}
            onChange={(event) => setNote(event.target.value)}
            onBlur={() => {
              if (note !== frame.note) annotate(frame, note);
            }}
          />
        </Form.Group>
        <p className="quiet">{session?.signed_in ? words.run.kept : words.run.keptHere}</p>
        <div className="run-after">
          <Button variant="signal" onClick={rearm}>
            {words.run.again}
          </Button>
          <Button variant="quiet" onClick={() => takeBack(frame)}>
            {words.run.takeBack}
          </Button>
          <Link to="/log" className="btn btn-quiet">
            {words.run.toLog}
          </Link>
          <Link to="/" className="btn btn-quiet">
            {words.run.toBench}
          </Link>
        </div>
      </section>
    </div>
  );
}

/** Actual times are known to about a fifth of a second by hand: tenths below a minute, else seconds. */
function tenths(seconds: number): string {
  return seconds < 60 ? `${seconds.toFixed(1)} s` : timeText(seconds);
}
