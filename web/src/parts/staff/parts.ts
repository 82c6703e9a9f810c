import type { Schemas } from "../../api/client";
import { words } from "../../words";
import { plannedTime, signedStops, sumTime } from "../../words/times";

type SumStep = Schemas["SumStepDoc"];

/** A span of the staff that one part of the sum takes. */
export interface Part {
  key: string;
  kind: "glass" | "in_reading" | Moved;
  name: string;
  stops: number;
  from: number;
  to: number;
  /** Which glass it is, so that it can be taken off, and what kind. */
  id?: string;
  glassKind?: string;
  /** Where a variable glass could end [s], from the same foot. */
  range?: { low: number; high: number };
}

/** A worked-out frame, as far as drawing its sum needs it. */
export interface Summed {
  answer: { steps: readonly SumStep[] };
  stack: {
    name: string;
    stops: number;
    offset?: number | null;
    id?: string | null;
    kind?: string | null;
    low?: number;
    high?: number;
  }[];
  settings: { aperture: string; iso: string };
}

/**
 * The sum as spans to draw: a glass and what it measures beside its label become one block as tall
 * as its measured stops; glass that was in the reading hangs below the base.
 */
export function partsOf({ answer, stack, settings }: Summed): Part[] {
  const steps = answer.steps;
  const parts: Part[] = [];
  let at = steps[0]?.seconds ?? 1;
  let ghost = at;
  for (const step of steps.slice(1)) {
    const glass = step.glass == null ? undefined : stack[step.glass];
    const last = parts.at(-1);
    if (step.kind === "measured" && last) {
      last.to = step.seconds;
      last.stops += step.stops;
    } else if (step.kind === "in_reading") {
      const stops = (glass?.stops ?? 0) + (glass?.offset ?? 0);
      const below = ghost / 2 ** stops;
      parts.push({
        key: `in-${step.glass}`,
        kind: "in_reading",
        name: glass?.name ?? step.name,
        stops,
        from: below,
        to: ghost,
      });
      ghost = below;
    } else {
      const kind = isMove(step.kind) ? step.kind : "glass";
      const moved = {
        off: step.name,
        turned: glass?.name ?? step.name,
        aperture: `f/${settings.aperture}`,
        iso: `ISO ${settings.iso}`,
        light: step.stops < 0 ? words.staff.lightRises : words.staff.lightFalls,
        film: words.staff.film,
        chosen: words.staff.chosen,
        correction: step.name,
        purpose: step.name,
        glass: glass?.name ?? step.name,
      };
      parts.push({
        key: `${step.kind}-${step.glass ?? ""}`,
        kind,
        name: moved[kind],
        stops: step.stops,
        from: at,
        to: step.seconds,
        ...(kind === "glass" && glass && ofGlass(glass, at)),
      });
    }
    at = step.seconds;
  }
  return parts;
}

type Moved = (typeof MOVES)[number];
const MOVES = ["off", "turned", "aperture", "iso", "correction", "purpose", "light", "film", "chosen"] as const;

function isMove(kind: string): kind is Moved {
  return MOVES.some((move) => move === kind);
}

function ofGlass(glass: Summed["stack"][number], foot: number): Partial<Part> {
  const { id, kind, low, high } = glass;
  return {
    ...(id != null && { id }),
    ...(kind != null && { glassKind: kind }),
    ...(kind === "variable" &&
      low !== undefined &&
      high !== undefined && { range: { low: foot * 2 ** low, high: foot * 2 ** high } }),
  };
}

/** The staff in words, for those who hear it. */
export function staffText(
  answer: { base_seconds: number; set_seconds: number; dial_mark?: string | null },
  parts: Part[],
  dialLimit: number,
  read = sumTime(answer.base_seconds, dialLimit),
): string {
  const phrases = parts.map((part) =>
    words.staff.part(
      part.kind === "in_reading" ? words.staff.was(part.name) : part.name,
      signedStops(part.stops),
      sumTime(part.kind === "in_reading" ? answer.base_seconds : part.to, dialLimit),
    ),
  );
  return words.staff.text(read, phrases.join(" "), plannedTime(answer));
}
