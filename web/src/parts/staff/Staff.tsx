import { useId, useState } from "react";
import type { Schemas } from "../../api/client";
import { words } from "../../words";
import { plannedTime, sumTime } from "../../words/times";
import { axis } from "./axis";
import { type Band, Bands } from "./Bands";
import { AnswerFlag, Flag } from "./Flags";
import { FLAG } from "./flagSize";
import { Graduation, POLE } from "./Graduation";
import { Notch } from "./Notch";
import { labelHeight, LINE } from "./notchLabels";
import { partsOf, staffText, type Summed } from "./parts";
import { SkyGives } from "./SkyGives";
import { StaffBlock } from "./StaffBlock";
import "./staff.css";

export interface StaffFrame {
  answer: Pick<
    Schemas["ExposureAnswer"],
    "seconds" | "set_seconds" | "base_seconds" | "stops" | "from_seconds" | "to_seconds"
  > & {
    dial_mark?: string | null;
    steps: readonly Schemas["SumStepDoc"][];
  };
  stack: Summed["stack"];
  settings: Summed["settings"];
  dialLimit: number;
}

interface Props extends StaffFrame {
  /** The time that is held while something else floats. */
  aim?: { held: number } | { from: number; to: number | null } | null | undefined;
  bands?: Band[];
  /** What the sky would give at the reading's settings. */
  sky?: { from: number; to: number } | null | undefined;
  onTakeOff?: (id: string) => void;
  /** The pennant was dragged to a time [s]. */
  onChoose?: ((seconds: number) => void) | undefined;
  /** The time under the hand while it is dragged; null when it is let go. */
  onPull?: ((seconds: number | null) => void) | undefined;
  /** A window was tapped: aim for it, or let it go. */
  onWant?: (want: { kind: string; look: string }) => void;
  /** The reading is a forecast's: nobody has metered. */
  expected?: boolean;
  /** Whether anybody metered; a frame that was only timed has no reading to show. */
  metered?: boolean;
  /** What the dial said when metered, as it stands there. */
  read?: string | undefined;
  width: number;
  height: number;
}

/** A smaller move of aperture, ISO or light is not drawn [stops]. */
const LEAST_MOVE = 0.05;
/** Narrower than this the staff has no room for the names of filters. */
const NARROW = 300;
/** Narrower still it is drawn without a word: beside a list. */
const SLIM = 120;
/** Until its place is known it has no size to draw in [px]. */
const LEAST_WIDTH = 40;
const LEAST_HEIGHT = 90;
/** Less than this a column of windows is not worth drawing [px]. */
const LEAST_BAND = 52;
const THIRD = 2 ** (1 / 3);

/** The staff: one upright axis of shutter times that the whole sum hangs on. */
export function Staff(props: Props) {
  const { answer, stack, settings, dialLimit, aim, bands = [], sky, read, width, height } = props;
  const { onTakeOff, onChoose, onPull, onWant, expected = false, metered = true } = props;
  const hatch = useId();
  const [turn, setTurn] = useState(0);
  if (width < LEAST_WIDTH || height < LEAST_HEIGHT) return null;
  const narrow = width < NARROW;
  const end = answer.set_seconds;
  const parts = partsOf({ answer, stack, settings });
  const dial = Math.max(dialLimit, 1);
  const scale = axis(
    [
      answer.base_seconds,
      end,
      answer.seconds,
      answer.to_seconds,
      dial,
      ...(aim && "held" in aim ? [aim.held] : []),
      ...parts.flatMap((part) => [part.from, part.to, ...(part.range ? [part.range.low, part.range.high] : [])]),
    ],
    FLAG + 4,
    height - FLAG - 2,
  );
  const slim = width < SLIM;
  const pole = slim ? 2 : narrow ? 56 : 66;
  const blocks = pole + POLE + 4;
  const columns = Math.min(bands.length, Math.floor((width - blocks - 90) / LEAST_BAND));
  const blockWidth =
    columns > 0
      ? Math.min(150, (width - blocks) * (width > 420 ? 0.34 : 0.3))
      : slim
        ? width - blocks - 12
        : Math.min(190, width * 0.4);
  const flagWidth = slim ? width - pole - POLE : Math.min(Math.max(blockWidth + 10, 84), width - pole - POLE);
  // A move that nobody could see is left to the working.
  const moves = parts.filter(
    (part) => part.kind !== "glass" && part.kind !== "in_reading" && Math.abs(part.stops) >= LEAST_MOVE,
  );
  const base = read ?? sumTime(answer.base_seconds, dial);
  const text = metered ? staffText(answer, parts, dial, read) : words.staff.timed(plannedTime(answer));
  // Away from the sliver: where light adds time, the pennant flies on the other side of its line.
  const flies = moves.some(({ kind, stops }) => kind === "light" && stops > 0);
  const bandsAt = blocks + blockWidth + (width > 420 ? 56 : 34);
  const only = bands[turn % Math.max(1, bands.length)];
  const shown = columns >= bands.length ? bands : columns > 0 && only ? [only] : [];
  const right = shown.length > 0 ? bandsAt - 8 : width;
  const aimed =
    aim &&
    ("held" in aim
      ? { from: aim.held / THIRD, to: aim.held * THIRD }
      : { from: aim.from, to: aim.to ?? Number.POSITIVE_INFINITY });
  return (
    <div className="staff-frame">
      {shown.length > 0 && (
        <Bands
          bands={shown}
          scale={scale}
          x={bandsAt}
          width={width - bandsAt}
          top={scale(scale.ends[1]) - 8}
          at={end}
          onWant={onWant}
          onNext={shown.length < bands.length ? () => setTurn(turn + 1) : undefined}
        />
      )}
      <svg className="staff" width={width} height={height} role="img" aria-label={text}>
        <defs>
          <pattern id={hatch} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line className="hatch-line" x1="0" y1="0" x2="0" y2="6" />
          </pattern>
        </defs>
        <rect
          className="sure-band"
          aria-hidden="true"
          x={pole + POLE}
          width={width - pole - POLE}
          y={scale(answer.to_seconds)}
          height={Math.max(0, scale(answer.from_seconds) - scale(answer.to_seconds))}
        />
        <Graduation
          scale={scale}
          pole={pole}
          dialLimit={dial}
          from={blocks + blockWidth + 4}
          to={slim ? 0 : shown.length > 0 ? right : Math.min(width, blocks + blockWidth + 70)}
          aim={aimed ?? null}
        />
        {sky && <SkyGives scale={scale} sky={sky} x={pole - 7} />}
        {parts.map(
          (part) =>
            (part.kind === "glass" || part.kind === "in_reading") && (
              <StaffBlock
                key={part.key}
                part={part}
                scale={scale}
                x={blocks}
                width={part.kind === "glass" ? blockWidth : blockWidth * 0.45}
                hatch={hatch}
                narrow={width < 420}
                flag={flies ? scale(end) - FLAG : scale(end)}
                named={!slim}
                {...(onTakeOff && { onTakeOff })}
              />
            ),
        )}
        {moves.map((part, place) => (
          <Notch
            key={part.key}
            part={part}
            scale={scale}
            x={part.kind === "light" ? blocks : blocks + blockWidth + 4}
            width={part.kind === "light" ? blockWidth : 12}
            hatch={hatch}
            labelAt={
              part.kind === "light"
                ? flies
                  ? scale(Math.min(part.from, part.to)) + LINE
                  : scale(Math.max(part.from, part.to)) - 9
                : labelHeight(moves, place, scale, scale(end))
            }
            named={!slim}
            labelX={part.kind === "light" ? (flies ? blocks + blockWidth + 6 : blocks) : blocks + blockWidth + 20}
          />
        ))}
        {metered && (
          <Flag
            className="flag-read"
            x={pole + POLE}
            y={scale(answer.base_seconds)}
            hangs
            height={22}
            width={slim ? 28 : Math.max(56, Math.min(92, blockWidth * 0.62))}
            label={slim ? "" : expected ? words.staff.expected(base) : base}
          />
        )}
        <AnswerFlag
          scale={scale}
          end={end}
          mark={answer.dial_mark ?? null}
          x={pole + POLE}
          width={width}
          flagWidth={flagWidth}
          narrow={width < 420}
          flies={flies}
          slim={slim}
          onChoose={onChoose}
          onPull={onPull}
        />
      </svg>
    </div>
  );
}
