import { useDrag } from "../../ui/useDrag";
import { markText, shortTime, timeText } from "../../words/times";
import type { Axis } from "./axis";
import { FLAG } from "./flagSize";

interface AnswerFlagProps {
  scale: Axis;
  end: number;
  mark: string | null;
  x: number;
  width: number;
  flagWidth: number;
  narrow: boolean;
  /** Whether it stands on its line rather than hanging under it. */
  flies: boolean;
  /** Without its words, beside a list that says them. */
  slim: boolean;
  onChoose: ((seconds: number) => void) | undefined;
  /** The time under the hand; null when it is let go. */
  onPull: ((seconds: number | null) => void) | undefined;
}

/** The answer's pennant: dragged up or down it chooses another time. */
export function AnswerFlag(props: AnswerFlagProps) {
  const { scale, end, mark, x, width, flagWidth, narrow, flies, slim, onChoose, onPull } = props;
  const { held: pulled, handlers } = useDrag(
    ({ y: down }) => {
      onPull?.(scale.at(scale(end) + down));
      return down;
    },
    (down) => {
      onPull?.(null);
      if (Math.abs(down) > LEAST_PULL) onChoose?.(scale.at(scale(end) + down));
    },
  );
  const y = scale(end) + (pulled ?? 0);
  const drag = onChoose && handlers;
  // The big answer beside it spells a time out; on a narrow staff there is room for the figures alone.
  const timeAt = narrow ? shortTime : timeText;
  const stands = mark === null ? timeAt(end) : markText(mark);
  const label = pulled === null ? stands : timeAt(scale.at(y));
  const long = AROUND + label.length * FIGURE;
  return (
    <g className={onChoose ? "flag-loose" : undefined} {...drag}>
      <line className="answer-line" x1={x} x2={width} y1={y} y2={y} />
      <Flag
        className="flag-answer"
        x={x}
        y={y}
        hangs={!flies}
        width={slim ? flagWidth : Math.min(width - x, Math.max(flagWidth, long))}
        label={slim ? "" : label}
      />
    </g>
  );
}

const LEAST_PULL = 4;
/** What a label leaves free before it and at the notch, and how wide one of its letters is on the whole [px]. */
const AROUND = 26;
const FIGURE = 11;

interface FlagProps {
  className: string;
  x: number;
  y: number;
  width: number;
  label: string;
  hangs?: boolean;
  height?: number;
  testId?: string;
}

/** A swallow-tailed pennant: it stands on its line, or hangs under it. */
export function Flag({ className, x, y, width, label, hangs = false, height = FLAG, testId }: FlagProps) {
  const top = hangs ? y : y - height;
  const notch = height * 0.34;
  return (
    <g className={className} data-testid={testId} transform={`translate(${x} ${top})`}>
      <path d={`M0 0 H${width} L${width - notch} ${height / 2} L${width} ${height} H0 Z`} />
      <text className="flag-label" x="12" y={height / 2} dy="0.35em">
        {label}
      </text>
    </g>
  );
}
