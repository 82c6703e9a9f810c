import type { Shot } from "../questions/dryRun";
import type { DryRun } from "./dryRuns";
import type { Frame } from "./frames";
import type { KitItem } from "./kit";

/** As many as a frame of a dry run takes. */
const MOST_FILTERS = 8;
const FIRST_LOOKS = new Set(["trial", "rehearsal"]);

/** A frame of a dry run as the core develops it; null for one that was given up or is not of this run. */
export function shotOf(frame: Frame, run: Pick<DryRun, "begun" | "opened">, kit: readonly KitItem[]): Shot | null {
  const opened = run.opened[frame.id];
  const stack = frame.stack.flatMap((glass) => glassOf(glass, kit));
  const seconds = frame.actual_seconds;
  // What was brought in meanwhile is no filter of this outing, and nobody knows what it hides.
  const known = new Set(run.begun.scenario.kit.map((item) => String(item["id"])));
  if (!stack.every(({ id }) => known.has(id)) || stack.length > MOST_FILTERS) return null;
  if (!opened || frame.state !== "closed" || seconds == null || seconds <= 0) return null;
  const aimed = frame.events.findLast((event) => event.kind === "aimed")?.seconds;
  const purpose = frame.run?.purpose ?? "frame";
  return {
    framing: opened.framing,
    opened_at: frame.opened_at,
    seconds,
    aimed_seconds: aimed ?? frame.answer.set_seconds,
    metered_seconds: frame.run?.metered_seconds ?? frame.answer.set_seconds,
    metered_at: frame.reading.metered_at ?? null,
    aperture: frame.settings.aperture,
    iso: frame.settings.iso,
    stack,
    correction_stops: frame.run?.correction_stops ?? 0,
    purpose_stops: frame.run?.purpose_stops ?? 0,
    decided_stops: frame.run?.bias_stops ?? 0,
    prepared: opened.prepared,
    purpose: purpose === "dark" ? "dark" : FIRST_LOOKS.has(purpose) ? "first_look" : "frame",
  };
}

/** A filter as it was reckoned; a named stack as its members, what it measures beside them with the first. */
function glassOf(glass: Frame["stack"][number], kit: readonly KitItem[]): NonNullable<Shot["stack"]> {
  const { id, stops, offset, in_reading } = glass;
  if (id == null) return [{ id: "", stops, in_reading }];
  const item = kit.find((each) => each.id === id);
  const members = item?.sort === "glass" ? item.facts.members : [];
  const whole = stops + (offset ?? 0);
  if (members.length === 0) return [{ id, stops: whole, in_reading }];
  const parts = members.map((member) => {
    const piece = kit.find((each) => each.id === member);
    return { id: member, stops: piece?.sort === "glass" ? piece.strength.stops : 0, in_reading };
  });
  const rest = whole - parts.reduce((sum, part) => sum + part.stops, 0);
  return parts.map((part, place) => (place === 0 ? { ...part, stops: Math.max(0, part.stops + rest) } : part));
}

/** Every frame of a dry run in the order they were taken. */
export function shotsOf(
  frames: readonly Frame[],
  run: Pick<DryRun, "begun" | "opened">,
  kit: readonly KitItem[],
): Shot[] {
  return frames
    .toSorted((a, b) => Date.parse(a.opened_at) - Date.parse(b.opened_at))
    .flatMap((frame) => shotOf(frame, run, kit) ?? []);
}
