/** Times and stops as text. Formatting only: what a time should be is worked out by the core. */

export interface TimePart {
  value: string;
  unit: string;
}

/** What a dial of third stops shows below a third of a second, each a third of a stop shorter than the one before. */
const FRACTIONS = (
  "4 5 6 8 10 13 15 20 25 30 40 50 60 80 100 125 160 200 250 320 400 500 640 800 1000 1250 1600 2000 2500 3200 " +
  "4000 5000 6400 8000 10000 12800 16000 20000 25600 32000"
).split(" ");
/** The same from a third of a second up, to the end of most dials. */
const SECONDS = "0.3 0.4 0.5 0.6 0.8 1 1.3 1.6 2 2.5 3.2 4 5 6 8 10 13 15 20 25 30".split(" ");
const FIRST_THIRD = -5;

/** The nearest fraction that a dial shows: nobody can set another. */
function fractionMark(seconds: number): string {
  const place = Math.round(-3 * Math.log2(seconds)) - 6;
  return `1/${FRACTIONS[Math.min(FRACTIONS.length - 1, Math.max(0, place))] ?? "4"}`;
}

/** A time on the way of a sum: as the dial writes it where it is a mark of it, else as it is. */
export function sumTime(seconds: number, dialLimit: number): string {
  const third = 3 * Math.log2(seconds);
  const label = SECONDS[Math.round(third) - FIRST_THIRD];
  const isMark = label !== undefined && Math.abs(third - Math.round(third)) < 1e-3 && Number(label) <= dialLimit;
  return isMark ? markText(label) : timeText(seconds);
}

/** The one time of a frame: the dial's mark where the dial reaches, else the time itself. */
export function plannedTime(answer: { set_seconds: number; dial_mark?: string | null }): string {
  return answer.dial_mark == null ? timeText(answer.set_seconds) : markText(answer.dial_mark);
}

/** A time in the parts the big answer is set in: `3` min `38` s, `1/60`, `0.6` s. */
export function timeParts(seconds: number): TimePart[] {
  if (seconds <= 0) return [{ value: "0", unit: "s" }];
  if (seconds < 0.29) return [{ value: fractionMark(seconds), unit: "s" }];
  if (seconds < 9.95) return [{ value: seconds.toFixed(1).replace(/\.0$/, ""), unit: "s" }];
  const whole = Math.round(seconds);
  if (whole < 60) return [{ value: String(whole), unit: "s" }];
  const [large, small, units] =
    whole < 3600
      ? [Math.floor(whole / 60), whole % 60, ["min", "s"]]
      : [Math.floor(Math.round(seconds / 60) / 60), Math.round(seconds / 60) % 60, ["h", "min"]];
  // A part of nothing says nothing: 5 min, 1 h.
  return [large, small].flatMap((value, place) =>
    place > 0 && value === 0
      ? []
      : [{ value: place > 0 ? String(value).padStart(2, "0") : String(value), unit: units[place] ?? "" }],
  );
}

/** The same for a frame: the dial's mark where the dial reaches. */
export function plannedParts(answer: { set_seconds: number; dial_mark?: string | null }): TimePart[] {
  return answer.dial_mark == null ? timeParts(answer.set_seconds) : [{ value: answer.dial_mark, unit: "s" }];
}

export function timeText(seconds: number): string {
  const parts = timeParts(seconds);
  if (parts[0]?.value.startsWith("1/")) return parts[0].value;
  return parts.map((part) => `${part.value} ${part.unit}`).join(" ");
}

/** A time no finer than two digits can stand for: the ends of a plus-or-minus band. */
export function roughTime(seconds: number): string {
  if (seconds > 0 && seconds < 0.29) return fractionMark(seconds);
  const grain = seconds < 10 ? 0.1 : seconds < 60 ? 1 : seconds < 600 ? 10 : seconds < 3600 ? 60 : 600;
  const rounded = Math.round(seconds / grain) * grain;
  return timeText(rounded);
}

/**
 * How long a frame was really open. By hand that is known to a fifth of a second: tenths below a minute; where the dial
 * closed it, its mark.
 */
export function actualTime(frame: {
  actual_seconds: number | null;
  closed_by?: string | null;
  answer: { set_seconds: number; dial_mark?: string | null };
}): string {
  const seconds = frame.actual_seconds ?? 0;
  const { dial_mark: mark, set_seconds: set } = frame.answer;
  if (mark != null && frame.closed_by === "mark" && Math.abs(seconds - set) < 0.01 * set) return markText(mark);
  if (seconds < 1) return timeText(Math.max(seconds, 0.001));
  return seconds < 60 ? `${seconds.toFixed(1)} s` : timeText(seconds);
}

/** What the light asked for in the end, where that is not the planned time; null where it is. */
export function askedText(frame: {
  events: { kind: string; seconds?: number | null }[];
  answer: { set_seconds: number };
}): string | null {
  const aimed = frame.events.findLast((event) => event.kind === "aimed")?.seconds;
  if (aimed == null || Math.abs(aimed - frame.answer.set_seconds) <= UNSEEN) return null;
  return aimed < 60 ? `${aimed.toFixed(1)} s` : timeText(aimed);
}

/** Nobody closes by hand nearer than this [s]. */
const UNSEEN = 0.5;

/** A running clock: `0:07`, `12:45`, `1:02:03`. */
export function clockText(seconds: number): string {
  const whole = Math.floor(Math.max(0, seconds));
  const [hours, minutes, rest] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const tail = String(rest).padStart(2, "0");
  return hours > 0 ? `${hours}:${String(minutes).padStart(2, "0")}:${tail}` : `${minutes}:${tail}`;
}

/** Where there is room for the figures alone: `48 s`, `3:23`, and `3 h 37`, which no minutes are taken for. */
export function shortTime(seconds: number): string {
  const whole = Math.round(seconds);
  if (whole < 60) return timeText(seconds);
  return whole < 3600 ? clockText(whole) : timeText(seconds).replace(/ min$/, "");
}

/** A dial mark as people say it: `1/60`, `4 s`. */
export function markText(label: string): string {
  return label.includes("/") ? label : `${label} s`;
}

/** A literal time in words the API reads back to the same number. */
function literalTime(seconds: number): string {
  return seconds >= 1 ? `${seconds} s` : `1/${Number((1 / seconds).toPrecision(6))}`;
}

/** One meaning of a typed time: its mark, or itself. */
export function meaningText(mark: string | null | undefined, seconds: number): string {
  return mark ? markText(mark) : literalTime(seconds);
}

/** Signed stops with a true minus sign; two decimals below a third of a stop, else one. */
export function signedStops(stops: number): string {
  const size = Math.abs(stops);
  const digits = size < 0.295 && size > 0 ? 2 : 1;
  const text = size.toFixed(digits);
  if (Number(text) === 0) return "0";
  return `${stops < 0 ? "−" : "+"}${text}`;
}

/** Signed stops to a tenth, for what is known no better. */
export function tenthStops(stops: number): string {
  const size = Math.abs(stops).toFixed(1);
  if (Number(size) === 0) return "0.0";
  return `${stops < 0 ? "−" : "+"}${size}`;
}

/** A strength as it is engraved: `6`, `4.3`. */
export function shortStops(stops: number): string {
  return stops.toFixed(1).replace(/\.0$/, "");
}

const THIRDS = ["", "⅓", "⅔"];

/** Stops in thirds as they are spoken, without a sign: `⅔`, `1 ⅓`. */
export function thirdsText(stops: number): string {
  const thirds = Math.round(Math.abs(stops) * 3);
  const whole = Math.floor(thirds / 3);
  const rest = THIRDS[thirds % 3] ?? "";
  return [whole > 0 || rest === "" ? String(whole) : "", rest].filter(Boolean).join(" ");
}

/** A correction's stops, rounded as the core says them: thirds where it is one, else tenths. */
export function saidStops(stops: number): string {
  const thirds = Math.round(Math.abs(stops) * 3);
  return thirds > 0 && Math.abs(Math.abs(stops) - thirds / 3) < 0.05 ? signedThirds(stops) : tenthStops(stops);
}

/** The same with its sign: `−⅔`, `+1 ⅓`, `0`. */
export function signedThirds(stops: number): string {
  const text = thirdsText(stops);
  if (text === "0") return text;
  return `${stops < 0 ? "−" : "+"}${text}`;
}
