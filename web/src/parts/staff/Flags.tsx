import { type PointerEvent, useRef, useState } from "react";
import { words } from "../../words";
import { markText, shortTime, timeText } from "../../words/times";
import type { Axis } from "./axis";

/** How high a standing pennant is [px]. */
export const FLAG = 34;

interface AnswerFlagProps {
  scale: Axis;
  end: number;
  mark: string | null;
  x: number;
  width: number;
  flagWidth: number;
  roomy: boolean;
  narrow: boolean;
  onChoose: ((seconds: number) => void) | undefined;
}

/** The answer's pennant: dragged up or down it chooses another time. */
export function AnswerFlag({ scale, end, mark, x, width, flagWidth, roomy, narrow, onChoose }: AnswerFlagProps) {
  const [pulled, setPulled] = useState<number | null>(null);
  const grip = useRef<number | null>(null);
  const y = scale(end) + (pulled ?? 0);
  const letGo = () => {
    grip.current = null;
    setPulled(null);
  };
  const drag = onChoose && {
    onPointerDown: (event: PointerEvent) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      grip.current = event.clientY;
      setPulled(0);
    },
    onPointerMove: (event: PointerEvent) => {
      if (grip.current !== null) setPulled(event.clientY - grip.current);
    },
    onPointerUp: () => {
      if (pulled !== null && Math.abs(pulled) > LEAST_PULL) onChoose(scale.at(y));
      letGo();
    },
    onPointerCancel: letGo,
  };
  // The big answer beside it spells a time out; on a narrow staff there is room for the figures alone.
  const timeAt = narrow ? shortTime : timeText;
  const stands = mark === null ? timeAt(end) : markText(mark);
  const label = pulled === null ? stands : timeAt(scale.at(y));
  const long = narrow ? Math.min(width - x, AROUND + label.length * FIGURE) : 0;
  return (
    <g className={onChoose ? "flag-loose" : undefined} {...drag}>
      <line className="answer-line" x1={x} x2={width} y1={y} y2={y} />
      <Flag
        className="flag-answer"
        x={x}
        y={y}
        width={Math.max(flagWidth, long)}
        label={label}
        {...(roomy && onChoose && stands.length < 9 && { aside: words.staff.drag })}
      />
    </g>
  );
}

const LEAST_PULL = 4;
/** What a label leaves free before it and at the notch, and how wide one of its letters is on the whole [px]. */
const AROUND = 26;
const FIGURE = 11;

/** The second pennant on its own line: hoisted from the foot towards the answer. */
export function Halyard(props: { x: number; top: number; bottom: number; at: number; label: string }) {
  const { x, top, bottom, at, label } = props;
  return (
    <g>
      <line className="halyard" x1={x} x2={x} y1={top} y2={bottom + 8} />
      <Flag className="flag-rising" x={x} y={Math.min(at, bottom)} width={112} label={label} />
    </g>
  );
}

/** A swallow-tailed pennant: it stands on its line, or hangs under it. */
export function Flag(props: {
  className: string;
  x: number;
  y: number;
  width: number;
  label: string;
  aside?: string;
  hangs?: boolean;
}) {
  const { x, y, width, label, aside, hangs } = props;
  const height = hangs ? 26 : FLAG;
  const top = hangs ? y : y - height;
  const notch = height * 0.42;
  return (
    <g className={props.className} transform={`translate(${x} ${top})`}>
      <path d={`M0 0 H${width} L${width - notch} ${height / 2} L${width} ${height} H0 Z`} />
      <text className="flag-label" x="12" y={height / 2} dy="0.35em">
        {label}
        {aside && (
          <tspan className="flag-aside" dx="12">
            {aside}
          </tspan>
        )}
      </text>
    </g>
  );
}
