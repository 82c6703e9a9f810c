import { useSyncExternalStore } from "react";
import { Button, Form } from "react-bootstrap";
import { ProgressBar } from "../../ui/opened";
import { take } from "../../engine/takeAlong";
import { canTake, holdBack, isHeldBack, subscribe, takenAlong } from "../../engine/taken";
import { words } from "../../words";

const say = words.takeAlong;

/** Everything for where there is no signal: fetched once, its size told beforehand, and how far that has come. */
export function TakeAlong() {
  const { stage, got, of } = useSyncExternalStore(subscribe, takenAlong);
  if (!canTake()) return <p className="quiet mb-0">{say.cannot}</p>;
  return (
    <section className="take-along" aria-label={say.title}>
      <h3>{say.title}</h3>
      {(stage === "none" || stage === "failed") && (
        <>
          <p className="mb-0">{stage === "failed" ? say.failed : say.why}</p>
          <Button variant="quiet" onClick={() => void take()}>
            {say.take}
          </Button>
          <Form.Check
            type="checkbox"
            id="take-ahead"
            label={say.ahead}
            checked={!isHeldBack()}
            onChange={(event) => holdBack(!event.target.checked)}
          />
        </>
      )}
      {stage === "fetching" && (
        <ProgressBar now={share(got, of)} label={say.fetched(share(got, of))} aria-label={say.title} />
      )}
      {stage === "starting" && <p role="status">{say.starting}</p>}
      {stage === "ready" && (
        <p className="mb-0" role="status">
          {say.ready}
        </p>
      )}
    </section>
  );
}

/** How much has come [%]: what is counted is unpacked, what is told beforehand is what goes over the air. */
function share(got: number, of: number | null): number {
  return of === null ? 0 : Math.min(100, Math.round((got / of) * 100));
}
