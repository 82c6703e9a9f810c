import { useId } from "react";
import { axis } from "./axis";
import { partsOf } from "./parts";
import type { StaffFrame } from "./Staff";
import "./staff.css";

interface Props extends Omit<StaffFrame, "answer"> {
  answer: Pick<StaffFrame["answer"], "seconds" | "base_seconds" | "steps">;
  actual?: number | null | undefined;
  width?: number;
  height?: number;
}

/** The staff lying down and in small, for rows: what was added, where it was meant to end, where it ended. */
export function SmallStaff({ answer, stack, settings, dialLimit, actual, width = 180, height = 22 }: Props) {
  const hatch = useId();
  const parts = partsOf({ answer, stack, settings });
  const times = [answer.base_seconds, answer.seconds, actual ?? answer.seconds, dialLimit];
  // One common span for all rows, so that lengths can be compared down the list.
  const scale = axis([1 / 250, 900, ...times, ...parts.map((part) => part.from)], width - 6, 6);
  const middle = height / 2;
  return (
    <svg className="small-staff" width={width} height={height} aria-hidden="true">
      <defs>
        <pattern id={hatch} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line className="hatch-line" x1="0" y1="0" x2="0" y2="5" />
        </pattern>
      </defs>
      <line className="small-pole" x1="0" x2={width} y1={height - 2} y2={height - 2} />
      <line className="dial-line" x1={scale(dialLimit)} x2={scale(dialLimit)} y1="0" y2={height - 2} />
      {parts.map((part) => {
        const [left, right] = [scale(Math.min(part.from, part.to)), scale(Math.max(part.from, part.to))];
        const glass = part.kind === "glass";
        return (
          <rect
            key={part.key}
            className={glass ? `shade-${Math.min(4, Math.floor(part.stops / 3))}` : "small-move"}
            fill={glass ? undefined : `url(#${hatch})`}
            x={left}
            y={glass ? middle - 5 : middle - 9}
            width={Math.max(1, right - left - 1)}
            height={glass ? height - middle + 3 : 4}
          />
        );
      })}
      {settings.aperture !== "" && (
        <circle className="small-read" cx={scale(answer.base_seconds)} cy={height - 3} r="3" />
      )}
      <path className="small-answer" d={`M${scale(answer.seconds)} 0 v${height} m0 ${-height} l8 3.5 l-8 3.5`} />
      {actual != null && <line className="small-actual" x1={scale(actual)} x2={scale(actual)} y1="2" y2={height} />}
    </svg>
  );
}
