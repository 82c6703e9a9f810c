import { ITS_OWN, readingIn, wallTime } from "./zone";

/**
 * Clock times as people read them: of 24 or 12 hours by one choice for the whole application, on the clock of the place
 * they belong to. What is kept and sent is "17:05" always; `zone.ts` writes that.
 */

export type Hours = 12 | 24;
/** What the browser's language is used to. */
export const LOCAL_HOURS: Hours =
  new Intl.DateTimeFormat(undefined, { hour: "numeric" }).resolvedOptions().hour12 === true ? 12 : 24;

let hours: Hours = LOCAL_HOURS;

/** Takes the choice of whoever is here; null is as the browser's language has it. */
export function countHours(chosen: Hours | null): void {
  hours = chosen ?? LOCAL_HOURS;
}

export function hoursCounted(): Hours {
  return hours;
}

type Fineness = "minutes" | "seconds";

function parts(to: Fineness): Intl.DateTimeFormatOptions {
  const [hour, hourCycle] = hours === 12 ? (["numeric", "h12"] as const) : (["2-digit", "h23"] as const);
  return { hour, hourCycle, minute: "2-digit", ...(to === "seconds" && { second: "2-digit" }) };
}

/** 17:05 or 5:05 pm. */
export function clockIn(instant: number, zone: string, to: Fineness = "minutes"): string {
  return readingIn(zone, parts(to)).format(instant);
}

/** The same with the zone named where its clock is another than this device's. */
export function placeClock(instant: number, zone: string, to: Fineness = "minutes"): string {
  return [clockIn(instant, zone, to), zoneNote(zone, instant)].join(" ").trim();
}

/** 17 Apr 2027, 17:05, with the zone named where its clock is another than this device's. */
export function dateAndClock(instant: number, zone: string, how: Intl.DateTimeFormatOptions = DATE): string {
  return `${readingIn(zone, how).format(instant)}, ${placeClock(instant, zone)}`;
}

const DATE: Intl.DateTimeFormatOptions = { day: "numeric", month: "short", year: "numeric" };

/** "GMT+1", where a zone's clock shows another time than this device's at that instant; else nothing. */
export function zoneNote(zone: string, instant: number): string {
  if (wallTime(instant, zone) === wallTime(instant, ITS_OWN)) return "";
  const named = readingIn(zone, { timeZoneName: "shortOffset" }).formatToParts(instant);
  return named.find(({ type }) => type === "timeZoneName")?.value ?? "";
}

/** A kept clock time as people read it: "17:05" or "5:05 pm". */
export function clockOf(time: string): string {
  return clockIn(Date.parse(`2001-01-01T${time}:00Z`), "UTC");
}

/** A sentence of the core with its clock times of 24 hours as people read them. */
export function withClocks(text: string): string {
  return text.replace(/\b(?:[01]\d|2[0-3]):[0-5]\d\b/g, clockOf);
}

/**
 * What was typed as a clock time, "17:05" as it is kept; null where it is none yet. "5:05" where hours are counted to
 * 12 may be either half of the day, so it is none without am or pm.
 */
export function readClock(text: string): string | null {
  // Without a sign between them both digits of the hour are there: 123 is on its way to 12:30.
  const said = /^(\d{1,2}(?=[:.h ])|\d\d)[:.h ]?([0-5]\d)\s*(?:([ap])\.?\s?m\.?)?$/i.exec(text.trim());
  if (!said) return null;
  const [hour, minute, half] = [Number(said[1]), said[2] ?? "", said[3]?.toLowerCase()];
  if (half !== undefined) {
    if (hour < 1 || hour > 12) return null;
    return `${String((hour % 12) + (half === "p" ? 12 : 0)).padStart(2, "0")}:${minute}`;
  }
  if (hour > 23 || (hours === 12 && hour >= 1 && hour <= 12)) return null;
  return `${String(hour).padStart(2, "0")}:${minute}`;
}

const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

/** A kept date as people read it: 17 Apr 2027. */
export function dateOf(date: string): string {
  return readingIn("UTC", DATE).format(Date.parse(`${date}T12:00:00Z`));
}

/** What was typed as a date, "2027-04-17" as it is kept: that itself, or "17 Apr 2027"; null where it is none yet. */
export function readDate(text: string): string | null {
  const iso = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text.trim());
  const said = /^(\d{1,2})\.? ([a-z]{3})[a-z]*\.?,? (\d{4})$/i.exec(text.trim());
  const month = said ? MONTHS.indexOf(said[2]?.toLowerCase() ?? "") + 1 : Number(iso?.[2]);
  const [year, day] = said ? [Number(said[3]), Number(said[1])] : [Number(iso?.[1]), Number(iso?.[3])];
  const date = new Date(Date.UTC(year, month - 1, day));
  // The 31st of April is the 1st of May to a browser, and nobody's date.
  if (Number.isNaN(date.getTime()) || date.getUTCMonth() !== month - 1 || year < 1000) return null;
  return date.toISOString().slice(0, 10);
}
