import type { ReactNode } from "react";
import { bandsOf } from "../../parts/looks/bands";
import { Staff } from "../../parts/staff/Staff";
import type { Exposure, Ladders } from "../../questions/bench";
import type { Looks } from "../../questions/looks";
import { type Laid, settingsOf } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import type { Want } from "../../state/scene";
import { useMeasured } from "../../ui/useMeasured";
import { snapped } from "./stepping";

interface Props {
  laid: Laid;
  answer: Exposure | undefined;
  looks: Looks | undefined;
  light: BenchLight;
  ladders: Ladders | undefined;
  onTakeOff: (id: string) => void;
  onChoose: (seconds: number) => void;
  onWant: (want: Want) => void;
  /** The time under the hand while the pennant is dragged; null when it is let go. */
  onPull: (seconds: number | null) => void;
  children: ReactNode;
}

/** The staff of the bench, as large as the place it stands in. */
export function StaffStage(props: Props) {
  const { laid, answer, looks, light, ladders, onTakeOff, onChoose, onWant, onPull, children } = props;
  const sky = light.plausible ?? light.fits;
  const [stage, size] = useMeasured<HTMLDivElement>();
  return (
    <div className="staff-stage" ref={stage} data-drop="staff">
      {answer && size && (
        <Staff
          answer={answer}
          stack={laid.stack}
          settings={settingsOf(laid)}
          dialLimit={laid.dialLimit}
          aim={
            laid.bench.targetSeconds !== null && laid.bench.floating !== "time"
              ? { held: laid.bench.targetSeconds }
              : looks?.aim && { from: looks.aim.from_seconds, to: looks.aim.to_seconds }
          }
          bands={bandsOf(laid, looks)}
          sky={sky && { from: sky.from_seconds, to: sky.to_seconds }}
          onTakeOff={onTakeOff}
          onChoose={
            laid.bench.floating === "time"
              ? (seconds) => onChoose(snapped(ladders, seconds, laid.timerSeconds))
              : undefined
          }
          onWant={onWant}
          onPull={onPull}
          read={laid.bench.meter === "camera" ? laid.bench.shutter : undefined}
          expected={laid.bench.expectedSd !== null}
          width={size.width}
          height={size.height}
        />
      )}
      {children}
    </div>
  );
}
