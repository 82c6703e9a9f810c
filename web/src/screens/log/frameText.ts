import { type Frame, onlyTimed, zoneOf } from "../../state/frames";
import { clockIn, dateAndClock, zoneNote } from "../../words/clock";
import { glassNames } from "../../words/glassNames";
import { logWords } from "../../words/log";
import { signedStops, thirdsText } from "../../words/times";
import { isZone, ITS_OWN, readingIn } from "../../words/zone";

/** Frames in words, the same on every page of the log. */
const say = logWords;
export function verdictText(exposureError: number | null | undefined): string {
  if (exposureError == null) return say.review.none;
  if (Math.round(exposureError * 3) === 0) return say.review.isRight;
  return say.review.verdict(thirdsText(exposureError), exposureError < 0);
}

export function closedText(frame: Frame): string {
  if (frame.state === "aborted") return say.aborted;
  if (frame.state === "open") return say.running;
  if (!frame.error) return "";
  if (frame.error.verdict === "on_time") return say.onTime;
  const stops = signedStops(Math.abs(frame.error.stops)).replace("+", "");
  return frame.error.stops > 0 ? say.brighter(stops) : say.darker(stops);
}

export function baseText({ reading }: Frame): string {
  if (reading.ev100 != null) return say.base(`EV ${reading.ev100.toFixed(1).replace("-", "−")}`);
  if (!reading.shutter) return "";
  const marks = [reading.shutter, `f/${reading.aperture}`, `ISO ${reading.iso}`].join(" ");
  const { through } = reading;
  return say.base(through && through.length > 0 ? say.meteredThrough(marks, glassNames(through)) : marks);
}

/** What the camera was set to; "Only timed" where nobody said. */
export function settingsText({ settings: { aperture, iso } }: Pick<Frame, "settings">): string {
  return [aperture && `f/${aperture}`, iso && `ISO ${iso}`].filter(Boolean).join(" ") || say.onlyTimed;
}

export function glassText(frame: Frame): string {
  return onlyTimed(frame) && frame.stack.length === 0 ? "" : glassNames(frame.stack);
}

const DAY = { weekday: "long", day: "numeric", month: "long", year: "numeric" } as const;

type Opened = Pick<Frame, "opened_at" | "conditions">;

export function dayText(frame: Opened): string {
  const at = Date.parse(frame.opened_at);
  const zone = zoneOf(frame);
  return [readingIn(zone, DAY).format(at), zoneNote(zone, at)].filter(Boolean).join(", ");
}

export function clockOf(frame: Opened): string {
  return clockIn(Date.parse(frame.opened_at), zoneOf(frame));
}

export function whenText(frame: Opened): string {
  return dateAndClock(Date.parse(frame.opened_at), zoneOf(frame));
}

/** An instant by the clock of its place; of one that belongs to no place, by this device's. */
export function instantText(instant: string, zone?: string | null): string {
  return dateAndClock(Date.parse(instant), zone != null && isZone(zone) ? zone : ITS_OWN);
}
