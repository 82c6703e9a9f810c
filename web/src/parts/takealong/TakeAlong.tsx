import { useSyncExternalStore } from "react";
import { Button, ProgressBar } from "react-bootstrap";
import { canTake, subscribe, take, takenAlong } from "../../engine/takeAlong";
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
        </>
      )}
      {stage === "fetching" && (
        <ProgressBar now={got} max={of ?? got * 2} label={say.fetched(megabytes(got))} aria-label={say.title} />
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

function megabytes(bytes: number): string {
  return (bytes / 1e6).toFixed(1);
}
