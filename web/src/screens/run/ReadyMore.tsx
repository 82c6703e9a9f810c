import { Button } from "react-bootstrap";
import { WatchLight } from "../../parts/lightwatch/WatchLight";
import type { Known } from "../../parts/lightwatch/known";
import { useExposure } from "../../questions/bench";
import type { Armed } from "../../state/armed";
import { isLit } from "../../state/runLight";
import { rearm, rehearsalOf, rehearse, tryFirst } from "../../state/running";
import { useSession } from "../../state/session";
import { Fault } from "../../ui/Fault";
import { faultText } from "../../ui/faultText";
import { say as toast } from "../../ui/say";
import { SidePanel } from "../../ui/SidePanel";
import { runWords } from "../../words/run";
import { plannedTime, timeText } from "../../words/times";
import { Closer } from "./Closer";
import { GearNow } from "./GearNow";
import { Reframe } from "./Reframe";
import { Signals } from "./Signals";

interface Props {
  armed: Armed;
  known: Known | null;
  /** What the battery has left; null where nobody knows. */
  batteryLeft: number | null;
  /** The ISO of a rehearsal and why it is worth one. */
  rehearsal: { iso: string; why: string } | null;
  onTest: () => void;
  onSeries: () => void;
  onRefused: (refused: boolean) => void;
  onClose: () => void;
}

/** Several frames, the bell, who opens, the watch, a rehearsal: what a single frame does not need. */
export function ReadyMore(props: Props) {
  const { armed, known, batteryLeft, rehearsal, onTest, onSeries, onRefused, onClose } = props;
  const { plan } = armed;
  const { practice } = useSession();
  const say = runWords;
  return (
    <SidePanel title={say.more.title} onClose={onClose}>
      <Button variant="quiet" onClick={onSeries}>
        {say.series.open}
      </Button>
      {isLit(plan.run) && <WatchLight known={known} />}
      <Signals onRefused={onRefused} />
      {!practice && <Closer onTest={onTest} />}
      <GearNow armed={armed} left={batteryLeft} />
      {rehearsal && plan.run.purpose === "frame" && <RehearsalOffer armed={armed} {...rehearsal} />}
      {triesFirst(armed) && (
        <div className="rehearse">
          <p>{say.trial.offer(timeText(plan.dial_limit))}</p>
          <Button
            variant="quiet"
            onClick={() => {
              tryFirst(plan.dial_limit).catch((error: unknown) => toast({ text: faultText(error) }));
            }}
          >
            {say.trial.arm(timeText(plan.dial_limit))}
          </Button>
        </div>
      )}
      <p className="more-foot">
        <Reframe />
        {armed.after && (
          <Button variant="quiet" onClick={rearm}>
            {say.backToFrame}
          </Button>
        )}
      </p>
    </SidePanel>
  );
}

/** The same frame at a high ISO first. The time that is shown is the one that is armed. */
function RehearsalOffer({ armed, iso, why }: { armed: Armed; iso: string; why: string }) {
  const say = runWords;
  const rehearsal = useExposure(rehearsalOf(armed, iso));
  const { shown, answer, error, again } = rehearsal;
  return (
    <div className="rehearse">
      <Fault error={error} again={again} />
      {shown && (
        <p data-stale={rehearsal.stale || undefined}>
          <strong>{say.rehearsal(iso, plannedTime(shown))}</strong> {why}
        </p>
      )}
      <Button variant="quiet" disabled={answer === undefined} onClick={() => answer && rehearse(iso, answer)}>
        {say.rehearse}
      </Button>
    </div>
  );
}

/** A trial at the dial's end is worth it where the frame is much longer; film's law would not scale up. */
function triesFirst({ plan, question, queue }: Armed): boolean {
  const { purpose, film } = plan.run;
  return (
    purpose === "frame" &&
    question !== null &&
    queue === null &&
    film == null &&
    plan.answer.dial_mark === null &&
    plan.answer.set_seconds >= plan.dial_limit * 2
  );
}
