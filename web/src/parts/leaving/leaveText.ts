import type { Tide } from "../../questions/light";
import { words } from "../../words";
import { clockIn, placeClock } from "../../words/clock";

const say = words.leaving;

/** When to leave, or why nobody knows, in one line; the clock is the place's. */
export function leaveText(tide: Tide, zone: string): string {
  if (tide.leave_by != null) return say.by(placeClock(Date.parse(tide.leave_by), zone));
  if (tide.state === "flooded") return say.flooded;
  if (tide.state === "dry") return say.dryUntil(clockOf(zone)(tide.known_until));
  return tide.state === "unknown" ? `${say.unknown} ${unknownBecause(tide, zone)}` : say.noWaters;
}

/** What stays in doubt beside it: how early the flood may come, how little is missing, where knowledge ends. */
export function leaveDoubts(tide: Tide, zone: string): string[] {
  const clock = clockOf(zone);
  return [
    ...(tide.leave_by != null && tide.floods_at != null
      ? [say.floodsAbout(clock(tide.floods_at), Math.ceil(tide.doubt_minutes ?? 0))]
      : []),
    ...(tide.clearance_m != null ? [say.clearance(tide.clearance_m.toFixed(1))] : []),
    ...(tide.state === "unknown" && tide.leave_by != null ? [say.before(clock(tide.known_from))] : []),
    ...(tide.state === "dry" ? [tide.missing ? missing(tide.missing, zone) : say.after(clock(tide.known_until))] : []),
  ];
}

function unknownBecause(tide: Tide, zone: string): string {
  const clock = clockOf(zone);
  if (tide.missing) return missing(tide.missing, zone);
  return tide.known_from == null ? say.after(clock(tide.known_until)) : say.before(clock(tide.known_from));
}

function missing({ kind, from, to }: NonNullable<Tide["missing"]>, zone: string): string {
  const clock = clockOf(zone);
  return kind == null ? say.kindUnknown(clock(from), clock(to)) : say.missing[kind](clock(from), clock(to));
}

function clockOf(zone: string): (at: string | null | undefined) => string {
  return (at) => (at == null ? "" : clockIn(Date.parse(at), zone));
}
