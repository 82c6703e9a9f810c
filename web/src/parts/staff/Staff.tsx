import { type PointerEvent, useId, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { words } from "../../words";
import { plannedTime, shortStops, signedStops, sumTime, timeText } from "../../words/times";
import { axis, type Axis, thirds, ticks } from "./axis";
import { type Band, Bands } from "./Bands";
import { AnswerFlag, Flag, FLAG, Halyard } from "./Flags";
import { type Part, partsOf, staffText, type Summed } from "./parts";
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
  /** While the shutter is open: how long it has been, hoisted as a second pennant. */
  elapsed?: number;
  /** Where that pennant hangs when light and clock part company [s of the plan's light]. */
  hoisted?: number;
  /** The time that is held while something else floats. */
  aim?: { held: number } | { from: number; to: number | null } | null | undefined;
  bands?: Band[];
  /** What the sky would give at the reading's settings. */
  sky?: { from: number; to: number } | null | undefined;
  onTakeOff?: (id: string) => void;
  /** The pennant was dragged to a time [s]. */
  onChoose?: ((seconds: number) => void) | undefined;
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

const POLE = 10;
const LINE = 17;
/** A smaller move of aperture, ISO or light is not drawn [stops]. */
const LEAST_MOVE = 0.05;
/** Narrower than this, one subject's windows stand beside the staff. */
const NARROW = 300;
const ONE_BAND = 54;
/** What the words on the dial's end take beside the blocks. */
const DIAL_WORDS = 126;

/** The staff: one upright axis of shutter times that the whole sum hangs on. */
export function Staff({
  answer,
  stack,
  settings,
  dialLimit,
  elapsed,
  hoisted,
  aim,
  bands = [],
  sky,
  onTakeOff,
  onChoose,
  onWant,
  read,
  expected = false,
  metered = true,
  width,
  height,
}: Props) {
  const hatch = useId();
  const [turn, setTurn] = useState(0);
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
    FLAG + 8,
    height - FLAG - 4,
  );
  const pole = narrow ? 52 : 76;
  const readFlag = narrow ? 76 : 124;
  const blocks = pole + POLE + 8;
  // Beside bands everything stands a little closer together.
  const close = bands.length > 0;
  const blockWidth = narrow ? width - blocks - ONE_BAND - 10 : Math.min(close ? 160 : 190, Math.max(96, width * 0.32));
  // Room enough for a long time; on a phone the stops stay in the sum below.
  const roomy = width > 480;
  const flagWidth = Math.min(roomy ? (close ? 228 : 250) : narrow ? blockWidth + 12 : 150, width - pole - POLE);
  const notches = Math.max(blocks + blockWidth, pole + POLE + flagWidth) + 12;
  // A move that nobody could see is left to the sum.
  const moves = parts.filter(
    (part) => part.kind !== "glass" && part.kind !== "in_reading" && Math.abs(part.stops) >= LEAST_MOVE,
  );
  const base = read ?? sumTime(answer.base_seconds, dial);
  const text = metered ? staffText(answer, parts, dial, read) : words.staff.timed(plannedTime(answer));
  // Beside the longest pennant, where there is room for it; a phone shows the windows in words alone.
  const bandsAt = narrow
    ? width - ONE_BAND - 2
    : Math.max(notches + (moves.length > 0 ? 96 : 0), blocks + blockWidth + DIAL_WORDS);
  const only = bands[turn % Math.max(1, bands.length)];
  const shown = narrow ? (only ? [only] : []) : width - bandsAt > 40 * bands.length ? bands : [];
  return (
    <div className="staff-frame">
      <svg className="staff" width={width} height={height} role="img" aria-label={text}>
        <defs>
          <pattern id={hatch} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line className="hatch-line" x1="0" y1="0" x2="0" y2="6" />
          </pattern>
        </defs>
        <Graduation
          scale={scale}
          pole={pole}
          height={height}
          dialLimit={dial}
          width={width}
          labelAt={shown.length > 0 ? bandsAt - 8 : width - 2}
        />
        {aim && (
          <Aim
            scale={scale}
            aim={aim}
            dial={scale(dial)}
            x={pole + POLE}
            width={width}
            labelAt={shown.length > 0 ? bandsAt - 8 : width - 4}
          />
        )}
        {sky && <SkyGives scale={scale} sky={sky} x={pole - 7} named={!narrow} />}
        <SureBand scale={scale} answer={answer} x={pole + POLE} width={width - pole - POLE} />
        {parts.map(
          (part) =>
            (part.kind === "glass" || part.kind === "in_reading") && (
              <Block
                key={part.key}
                part={part}
                scale={scale}
                x={part.kind === "glass" ? blocks : pole + POLE + readFlag + 8}
                width={blockWidth}
                hatch={hatch}
                narrow={narrow}
                time={sumTime(part.to, dial)}
                timed={clearOfFlag(scale(part.to), scale(end))}
                {...(onTakeOff && { onTakeOff })}
              />
            ),
        )}
        {!narrow &&
          moves.map((part, place) => (
            <Notch
              key={part.key}
              part={part}
              scale={scale}
              x={notches}
              hatch={hatch}
              labelAt={labelHeight(moves, place, scale, scale(end))}
            />
          ))}
        {metered && (
          <Flag
            className="flag-read"
            x={pole + POLE}
            y={scale(answer.base_seconds)}
            hangs
            width={readFlag}
            label={narrow ? base : (expected ? words.staff.expected : words.staff.read)(base)}
          />
        )}
        <AnswerFlag
          scale={scale}
          end={end}
          mark={answer.dial_mark ?? null}
          x={pole + POLE}
          width={width}
          flagWidth={flagWidth}
          roomy={roomy}
          narrow={narrow}
          onChoose={onChoose}
        />
        {elapsed !== undefined && elapsed > 0 && (
          <Halyard
            x={notches + (roomy && moves.length > 0 ? 110 : 0)}
            top={scale(end)}
            bottom={Math.max(scale(scale.ends[0]), scale(scale.ends[1]))}
            at={scale(Math.max(hoisted ?? elapsed, scale.ends[0]))}
            label={timeText(elapsed < 1 ? elapsed : Math.floor(elapsed))}
          />
        )}
      </svg>
      {shown.length > 0 && (
        <Bands
          bands={shown}
          scale={scale}
          x={bandsAt}
          width={width - bandsAt - 2}
          top={scale(scale.ends[1])}
          onWant={onWant}
          onNext={narrow && bands.length > 1 ? () => setTurn(turn + 1) : undefined}
        />
      )}
    </div>
  );
}

function Graduation(props: {
  scale: Axis;
  pole: number;
  height: number;
  dialLimit: number;
  width: number;
  labelAt: number;
}) {
  const { scale, pole, dialLimit, width, labelAt } = props;
  const [top, bottom] = [
    Math.min(scale(scale.ends[0]), scale(scale.ends[1])),
    Math.max(scale(scale.ends[0]), scale(scale.ends[1])),
  ];
  return (
    <g aria-hidden="true">
      {thirds(scale).map((seconds) => (
        <line key={seconds} className="third" x1={pole - 5} x2={pole} y1={scale(seconds)} y2={scale(seconds)} />
      ))}
      {ticks(scale).map((tick) => (
        <g key={tick.label} transform={`translate(0 ${scale(tick.seconds)})`}>
          <line className="tick" x1={pole - 12} x2={pole} />
          <text className="tick-label" x={pole - 18} dy="0.34em" textAnchor="end">
            {tick.label}
          </text>
        </g>
      ))}
      <rect className="pole" x={pole} y={top - 10} width={POLE} height={bottom - top + 20} />
      <line className="dial-line" x1={pole + POLE} x2={width} y1={scale(dialLimit)} y2={scale(dialLimit)} />
      {width >= NARROW && (
        <text className="dial-label" x={labelAt} y={scale(dialLimit) - 6} textAnchor="end">
          {words.staff.bulbFrom}
        </text>
      )}
    </g>
  );
}

/** The plus-or-minus as a band that fades in two steps: half of it is the likelier half. */
function SureBand({
  scale,
  answer,
  x,
  width,
}: {
  scale: Axis;
  answer: StaffFrame["answer"];
  x: number;
  width: number;
}) {
  const half = Math.sqrt(answer.to_seconds / answer.seconds);
  const band = (low: number, high: number) => (
    <rect className="sure-band" x={x} width={width} y={scale(high)} height={Math.max(0, scale(low) - scale(high))} />
  );
  return (
    <g aria-hidden="true">
      {band(answer.from_seconds, answer.to_seconds)}
      {band(answer.seconds / half, answer.seconds * half)}
    </g>
  );
}

/** Where the reading can honestly lie under this sky: a bar left of the pole, named when it is long enough. */
interface SkyProps {
  scale: Axis;
  sky: { from: number; to: number };
  x: number;
  named: boolean;
}

function SkyGives({ scale, sky, x, named }: SkyProps) {
  const [low, high] = scale.ends;
  if (sky.from >= high || sky.to <= low) return null;
  const [top, bottom] = [scale(Math.min(sky.to, high)), scale(Math.max(sky.from, low))];
  return (
    <g className="sky-gives" aria-hidden="true">
      <rect x={x} y={top} width="6" height={Math.max(2, bottom - top)} />
      {named && bottom - top > 44 && (
        <text x={x - 6} y={between(scale, (top + bottom) / 2)} dy="0.34em" textAnchor="end">
          {words.staff.skyBand}
        </text>
      )}
    </g>
  );
}

/** The height midway between two of the axis's labels, nearest to a height. */
function between(scale: Axis, height: number): number {
  const labels = ticks(scale).map((tick) => scale(tick.seconds));
  const gaps = labels.slice(1).map((label, place) => (label + (labels[place] ?? label)) / 2);
  return gaps.toSorted((a, b) => Math.abs(a - height) - Math.abs(b - height))[0] ?? height;
}

/** The time that is held, a third of a stop either side, or the aim between its ends. */
interface AimProps {
  scale: Axis;
  aim: NonNullable<Props["aim"]>;
  /** Where the dial's own words stand. */
  dial: number;
  x: number;
  width: number;
  labelAt: number;
}

function Aim({ scale, aim, dial, x, width, labelAt }: AimProps) {
  const third = 2 ** (1 / 3);
  const [low, high] = scale.ends;
  const [from, to] = "held" in aim ? [aim.held / third, aim.held * third] : [aim.from, aim.to ?? high];
  if (from >= high || to <= low) return null;
  const [top, bottom] = [scale(Math.min(to, high)), scale(Math.max(from, low))];
  // Under its upper edge, unless the dial's words stand there: then over its lower one.
  const named = Math.abs(top + LINE - dial) < LINE * 1.5 ? bottom - LINE * 0.7 : top + LINE * 0.8;
  return (
    <g className="aim" aria-hidden="true">
      <rect x={x} y={top} width={width - x} height={bottom - top} />
      <line x1={x} x2={width} y1={top} y2={top} />
      <line x1={x} x2={width} y1={bottom} y2={bottom} />
      <text x={labelAt} y={"held" in aim ? (top + bottom) / 2 : named} dy="0.35em" textAnchor="end">
        {"held" in aim ? `${words.staff.held} ${timeText(aim.held)}` : words.staff.aim}
      </text>
    </g>
  );
}

interface BlockProps {
  part: Part;
  scale: Axis;
  x: number;
  width: number;
  hatch: string;
  /** How far the sum has come at its top, and whether that is written there. */
  time: string;
  timed: boolean;
  /** Too narrow for names: what it takes stands there alone. */
  narrow: boolean;
  onTakeOff?: (id: string) => void;
}

const OFF_PX = 60;

function Block(props: BlockProps) {
  const { part, scale, x, width, hatch, time, timed, narrow, onTakeOff } = props;
  const [pulled, setPulled] = useState(0);
  const grip = useRef<number | null>(null);
  const [top, bottom] = [scale(Math.max(part.from, part.to)), scale(Math.min(part.from, part.to))];
  const height = Math.max(1.5, bottom - top - 1.5);
  const ghost = part.kind === "in_reading";
  const roomy = height >= 44;
  const dark = Math.min(4, Math.floor(part.stops / 3));
  const id = part.id;
  const draggable = id !== undefined && onTakeOff && !ghost;
  const handlers = draggable && {
    onPointerDown: (event: PointerEvent) => {
      grip.current = event.clientX;
      event.currentTarget.setPointerCapture(event.pointerId);
    },
    onPointerMove: (event: PointerEvent) => {
      if (grip.current !== null) setPulled(Math.max(0, event.clientX - grip.current));
    },
    onPointerUp: () => {
      if (grip.current !== null && pulled > OFF_PX) onTakeOff(id);
      grip.current = null;
      setPulled(0);
    },
    onPointerCancel: () => {
      grip.current = null;
      setPulled(0);
    },
  };
  const kind = part.glassKind;
  return (
    <g
      className={`${ghost ? "block ghost" : `block shade-${dark}`}${draggable ? " block-loose" : ""}`}
      transform={`translate(${x + pulled} ${top})`}
      opacity={pulled > OFF_PX ? 0.45 : undefined}
      {...handlers}
    >
      {part.range && (
        <rect
          className="block-range"
          width={width + 8}
          x={-4}
          y={scale(part.range.high) - top}
          height={scale(part.range.low) - scale(part.range.high)}
        />
      )}
      <rect width={width} height={height} rx="3" />
      {(kind === "polariser" || kind === "combined" || kind === "variable") && (
        <rect className="hatch" width={10} height={height} x={width - 10} fill={`url(#${hatch})`} />
      )}
      {ghost && <rect className="hatch" width={width} height={height} rx="3" fill={`url(#${hatch})`} />}
      {height >= 17 && (
        <text className="block-name" x="12" y={roomy ? height / 2 - 4 : height / 2} dy={roomy ? 0 : "0.35em"}>
          {narrow ? shortStops(part.stops) : part.name}
          {!roomy && !narrow && <tspan className="block-stops">{`  ${signedStops(part.stops)}`}</tspan>}
        </text>
      )}
      {roomy && !narrow && (
        <text className="block-stops" x="12" y={height / 2 + 16}>
          {words.staff.stops(signedStops(part.stops))}
        </text>
      )}
      {timed && !narrow && !ghost && height >= 60 && (
        <text className="block-time" x={width - 10} y={17} textAnchor="end">
          {time}
        </text>
      )}
    </g>
  );
}

/** A signed move of aperture or ISO: a hatched sliver with an arrow the way it goes. */
function Notch(props: { part: Part; scale: Axis; x: number; hatch: string; labelAt: number }) {
  const { part, scale, x, hatch, labelAt } = props;
  const [from, to] = [scale(part.from), scale(part.to)];
  const [top, bottom] = [Math.min(from, to), Math.max(from, to)];
  const tip = to < from ? 6 : -6;
  return (
    <g className="notch" transform={`translate(${x} 0)`}>
      <rect className="notch-body" x="0" y={top} width="14" height={Math.max(1, bottom - top)} />
      <rect fill={`url(#${hatch})`} x="0" y={top} width="14" height={Math.max(1, bottom - top)} />
      <path className="notch-tip" d={`M0 ${to + tip} L7 ${to} L14 ${to + tip}`} />
      <text className="notch-label" x="20" y={labelAt} dy="0.34em">
        {`${part.name} ${signedStops(part.stops)}`}
      </text>
    </g>
  );
}

/** Whether a time written under the top of a block stays clear of the answer's pennant. */
function clearOfFlag(top: number, answer: number): boolean {
  return top + LINE < answer - FLAG - 2 || top > answer + 2;
}

/** The middle of a move, pushed off its neighbour's label when both moves are small. */
function labelHeight(moves: Part[], place: number, scale: Axis, answer: number): number {
  // The answer's own line would strike a label through.
  const clear = (height: number) => (Math.abs(height - answer) < LINE / 2 ? answer + LINE * 0.7 : height);
  const middle = (part: Part) => (scale(part.from) + scale(part.to)) / 2;
  const here = moves[place];
  const before = moves[place - 1];
  if (!here) return 0;
  const own = middle(here);
  if (!before || Math.abs(own - middle(before)) >= LINE) return clear(own);
  return clear(middle(before) + (own < middle(before) ? -LINE : LINE));
}
