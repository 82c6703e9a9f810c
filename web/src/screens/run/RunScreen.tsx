import { Button } from "react-bootstrap";
import { Link, useLocation } from "wouter";
import { useFrame, useOpenFrame } from "../../state/frames";
import { words } from "../../words";
import { runWords } from "../../words/run";
import { AlsoOpen } from "./AlsoOpen";
import { ArmedView } from "./ArmedView";
import { EndedView } from "./EndedView";
import { JustTime } from "./JustTime";
import { OpenView } from "./OpenView";
import { useArmed } from "../../state/running";
import { Moment } from "../../ui/Moment";
import "./run.css";
import "./narrow.css";

/** Run is whatever the records say: an open frame, a finished one, an armed one, or nothing. */
export function RunScreen() {
  const armed = useArmed();
  const open = useOpenFrame();
  const finished = useFrame(open ? null : (armed?.finished ?? null));
  const [, navigate] = useLocation();

  if (open)
    return (
      <Moment key="open" name={open.id}>
        <OpenView key={open.id} frame={open} />
      </Moment>
    );
  if (armed?.finished && finished)
    return (
      <Moment key="ended" name={finished.id}>
        <AlsoOpen />
        <EndedView key={finished.id} frame={finished} armed={armed} />
      </Moment>
    );
  if (armed)
    return (
      <>
        <AlsoOpen />
        <ArmedView
          key={`${armed.plan.answer.set_seconds} ${armed.queue?.at ?? ""}`}
          armed={armed}
          busyUntil={armed.busyUntil}
        />
      </>
    );
  return (
    <div className="empty">
      <AlsoOpen />
      <h1>{runWords.nothing}</h1>
      <p>{runWords.nothingHint}</p>
      <Button variant="signal" onClick={() => navigate("/")}>
        {words.toBench}
      </Button>
      <JustTime />
      <Link to="/log" className="plain-link">
        {runWords.toLog}
      </Link>
    </div>
  );
}
