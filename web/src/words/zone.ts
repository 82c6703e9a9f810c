/** Wall-clock time of a zone to instants and back, by what the browser itself knows of zones. */

const FIELDS = {
  hourCycle: "h23",
  year: "numeric",
  month: "2-digit",
  day: "2-digit",
  hour: "2-digit",
  minute: "2-digit",
  second: "2-digit",
} as const;

const made = new Map<string, Intl.DateTimeFormat>();

/** How instants read in a zone. Making one costs a browser as much as hundreds of readings, so each is made once. */
export function readingIn(zone: string, how: Intl.DateTimeFormatOptions, locale = "en-GB"): Intl.DateTimeFormat {
  const key = JSON.stringify([zone, how, locale]);
  const format = made.get(key) ?? new Intl.DateTimeFormat(locale, { ...how, timeZone: zone });
  made.set(key, format);
  return format;
}

/** How far a zone is ahead of UTC at an instant [ms]. */
function offset(instant: number, zone: string): number {
  const parts = readingIn(zone, FIELDS, "en-US").formatToParts(instant);
  const of = (type: string) => Number(parts.find((part) => part.type === type)?.value);
  const wall = Date.UTC(of("year"), of("month") - 1, of("day"), of("hour"), of("minute"), of("second"));
  return wall - Math.floor(instant / 1000) * 1000;
}

/** The instant at which a zone's clocks show this date and time; in the hour that is skipped, the one after it. */
export function instantOf(date: string, time: string, zone: string): number {
  const wall = Date.parse(`${date}T${time}:00Z`);
  const guess = wall - offset(wall, zone);
  return wall - offset(guess, zone);
}

/** The clock time of a zone at an instant as it is kept and sent: 17:05. What people read is `clock.ts`. */
export function wallTime(instant: number, zone: string): string {
  return readingIn(zone, { hour: "2-digit", minute: "2-digit" }).format(instant);
}

export function isZone(zone: string): boolean {
  try {
    readingIn(zone, {});
    return true;
  } catch {
    return false;
  }
}

/** The date of a zone at an instant, as 2027-04-17. */
export function dateIn(instant: number, zone: string): string {
  return readingIn(zone, { dateStyle: "short" }, "sv-SE").format(instant);
}

const NAMED = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short", timeZone: "UTC" });

/** A date as people say it: Sat, 17 Apr. */
export function dayName(date: string): string {
  return NAMED.format(Date.parse(`${date}T12:00:00Z`));
}

/** Where this device's own clock hangs. */
export const ITS_OWN = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** Today by this device's calendar. */
export function today(): string {
  return dateIn(Date.now(), ITS_OWN);
}
