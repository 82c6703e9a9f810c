import { Button } from "react-bootstrap";
import { WatchLight } from "../../parts/lightwatch/WatchLight";
import type { ExposureEnd } from "../../questions/exposureEnd";
import { standing } from "../../state/exposureEnd";
import type { Frame } from "../../state/frames";
import { isLit } from "../../state/runLight";
import { extend, openedAgo, openedEarlier, reread } from "../../state/running";
import { SidePanel } from "../../ui/SidePanel";
import { runWords } from "../../words/run";
import { signedThirds } from "../../words/times";
import { MeterButton } from "./MeterButton";
import { TimeForm } from "./TimeForm";

const REREADS = [-3, -2, -1, 0, 1, 2, 3];

interface Props {
  frame: Frame;
  closing: ExposureEnd | undefined;
  simulated: boolean;
  elapsed: number;
  onClose: () => void;
}

/** The light as it is now: read again, or watched. */
export function LightNow({ frame, closing, simulated, elapsed, onClose }: Props) {
  const say = runWords;
  return (
    <SidePanel title={say.lightNow} onClose={onClose}>
      {frame.answer.dial_mark === null && frame.run?.purpose !== "stopwatch" && (
        <div className="run-rereads" role="group" aria-label={say.rereadLabel}>
          <p className="quiet mb-0">{say.rereadLabel}</p>
          <div>
            {REREADS.map((thirds) => (
              <Button key={thirds} variant="choice" onClick={() => void reread(frame, thirds / 3)}>
                {signedThirds(thirds / 3)}
              </Button>
            ))}
          </div>
          {simulated && <MeterButton frame={frame} />}
          {closing && (
            <TimeForm
              label={say.untilField}
              hint={say.untilHint}
              set={say.untilSet}
              onSet={(seconds) => {
                const by = standing(closing, seconds)?.stops;
                if (by !== undefined && seconds > elapsed) void extend(frame, by);
              }}
            />
          )}
        </div>
      )}
      {isLit(frame.run) && <WatchLight known={closing?.light ? { ...closing.light, from: "opening" } : null} />}
    </SidePanel>
  );
}

/** When it opened, where that was before the press. */
export function OpenedBefore({ frame, onClose }: { frame: Frame; onClose: () => void }) {
  const say = runWords;
  return (
    <SidePanel title={say.earlierLabel} onClose={onClose}>
      <div className="run-earlier" role="group" aria-label={say.earlierLabel}>
        <Button variant="quiet" onClick={() => void openedEarlier(frame, 1)}>
          {say.earlier1}
        </Button>
        <Button variant="quiet" onClick={() => void openedEarlier(frame, 5)}>
          {say.earlier5}
        </Button>
        <TimeForm
          digits
          set={say.openedAgoSet}
          label={say.openedAgoField}
          hint={say.openedAgo}
          onSet={(seconds) => void openedAgo(frame, seconds)}
        />
      </div>
    </SidePanel>
  );
}
