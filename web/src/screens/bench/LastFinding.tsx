import { Button } from "react-bootstrap";
import { useAgain } from "../../questions/run";
import { findingOf, taughtBy } from "../../state/taught";
import type { Bench, Laid } from "../../state/bench";
import { useFinished } from "../../state/frames";
import { remember, useHabits } from "../../state/habits";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";

interface Props {
  laid: Laid;
  set: (change: Partial<Bench>) => void;
}

/** What the last frame says of the one filter that is on again: counted for the next picture where somebody says so. */
export function LastFinding({ laid, set }: Props) {
  const frames = useFinished();
  const { findingLeft } = useHabits();
  const found = findingOf(frames, laid, useNow(60_000));
  const offered = found !== null && found.frame.id !== findingLeft ? found : null;
  const taught = useAgain(offered && taughtBy(offered.frame)).answer;
  if (!offered || !taught) return null;
  const say = words.finding;
  const name = say.name(offered.glass.name, Math.abs(taught.stops).toFixed(1), taught.stops > 0);
  return (
    <p className="last-finding">
      {name}.{" "}
      <Button
        variant="link"
        className="plain-link"
        onClick={() => set({ correction: { stops: taught.stops, name, because: "filter" } })}
      >
        {say.use}
      </Button>{" "}
      <Button variant="link" className="plain-link" onClick={() => remember({ findingLeft: offered.frame.id })}>
        {say.leave}
      </Button>
    </p>
  );
}
