import { scaleUtc } from "d3-scale";
import type { Light } from "../../questions/light";
import { type Outing, span } from "../../state/outings";
import { useMeasured } from "../../ui/useMeasured";
import { clockIn } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { RidgeLane } from "./RidgeLane";
import { SkyLane } from "./SkyLane";

interface Props {
  outing: Outing;
  light: Light | undefined;
  onEdit: (change: Partial<Outing>, message: string) => void;
}

/** The cloud along the hours of the outing, and the ridge before the sun where the subject waits for it. */
export function SkyOverHours({ outing, light, onEdit }: Props) {
  const [stage, size] = useMeasured<HTMLDivElement>();
  const [first, last] = span(outing);
  const width = Math.max(1, size?.width ?? 320);
  const x = scaleUtc([first, last], [0, width]);
  const clock = (ms: number) => clockIn(ms, outing.zone);
  return (
    <div className="sky-over-hours" ref={stage}>
      <div className="sky-lane-box">
        <SkyLane
          outing={outing}
          x={x}
          first={first}
          last={last}
          pixels={width}
          at={undefined}
          clock={clock}
          onChange={(change) => onEdit(change, outingWords.lane.changed)}
        />
      </div>
      {outing.scene === "sun_lit" && light && (
        <RidgeLane
          outing={outing}
          points={light.points.map(({ at, altitude_deg }) => ({ ms: Date.parse(at), altitude_deg }))}
          events={light.events}
          x={x}
          width={width}
          left={0}
          right={0}
          clock={clock}
          onChange={(ridge) => onEdit({ ridge }, outingWords.ridgeLane.changed)}
        />
      )}
    </div>
  );
}
