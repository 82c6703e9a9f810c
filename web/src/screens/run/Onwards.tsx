import { Button } from "react-bootstrap";
import type { Armed } from "../../state/armed";
import { change, hasNext, rearm } from "../../state/running";
import { MainAction } from "../../ui/kinds/MainAction";
import { runWords } from "../../words/run";
import type { Offer } from "./offer";

interface Props {
  armed: Armed;
  /** The corrected frame, where a verdict asks for one. */
  offer: Offer | null;
  arm: () => void;
}

/** What comes next: the corrected frame, the one a rehearsal was for, the next of the queue, or the same again. */
export function Onwards({ armed, offer, arm }: Props) {
  const say = runWords;
  const { queue, after } = armed;
  const same = () => change({ finished: null, queue: null });
  if (queue?.way === "lucky") {
    const next = (good: number, dropped: number) =>
      change({ finished: null, queue: { ...queue, kept: queue.kept + good, dropped: queue.dropped + dropped } });
    return (
      <>
        <Button variant="quiet" onClick={() => next(0, 1)}>
          {say.series.drop}
        </Button>
        <MainAction onAct={() => next(1, 0)}>{say.series.keep}</MainAction>
      </>
    );
  }
  if (queue && hasNext(queue))
    return (
      <MainAction onAct={() => change({ finished: null, queue: { ...queue, at: queue.at + 1 } })}>
        {say.series.next(queue.at + 2, queue.frames.length)}
      </MainAction>
    );
  if (offer)
    return (
      <>
        <Button variant="quiet" onClick={after ? rearm : same}>
          {after ? say.backToFrame : say.again}
        </Button>
        <MainAction onAct={arm} result={offer.time}>
          {say.correct.again}
        </MainAction>
      </>
    );
  if (after) return <MainAction onAct={rearm}>{say.backToFrame}</MainAction>;
  return <MainAction onAct={same}>{say.again}</MainAction>;
}
