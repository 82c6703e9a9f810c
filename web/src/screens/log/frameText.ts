import { words } from "../../words";
import { logWords } from "../../words/log";
import { signedStops, thirdsText } from "../../words/times";
import type { Frame } from "../../state/frames";

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
  if (reading.ev100 != null) return say.base(`EV ${reading.ev100}`);
  if (!reading.shutter) return "";
  return say.base([reading.shutter, `f/${reading.aperture}`, `ISO ${reading.iso}`].join(" "));
}

export function glassText(frame: Frame): string {
  return frame.stack.map((glass) => glass.name).join(" + ") || words.bare;
}

const DAY = new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long", year: "numeric" });
const CLOCK = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });
const SHORT = new Intl.DateTimeFormat("en-GB", { dateStyle: "medium", timeStyle: "short" });

export function dayText(instant: string): string {
  return DAY.format(new Date(instant));
}

export function clockOf(instant: string): string {
  return CLOCK.format(new Date(instant));
}

export function whenText(instant: string): string {
  return SHORT.format(new Date(instant));
}
