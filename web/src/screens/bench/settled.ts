import type { Steered } from "../../questions/bench";
import { hasAperture, type Laid } from "../../state/bench";

/** The mark that an aperture or ISO which is worked out stands at, and whether it is the end of what the gear has. */
export interface Settled {
  mark: string;
  atEnd: boolean;
}

/**
 * The nearest mark that lens or body has; where the answer lies beyond them, the end that comes nearest. Null while
 * something else is worked out.
 */
export function settledMark(laid: Laid, steered: Steered | undefined): Settled | null {
  const { floating, targetSeconds } = laid.bench;
  if (targetSeconds === null || !steered || (floating !== "aperture" && floating !== "iso")) return null;
  const has =
    floating === "aperture" ? (mark: string) => hasAperture(laid, mark) : (mark: string) => hasIso(laid, mark);
  const best = steered.nearest
    .filter(({ mark }) => has(mark))
    .toSorted((a, b) => Math.abs(a.cost_stops) - Math.abs(b.cost_stops))[0];
  if (best) return { mark: best.mark, atEnd: steered.missing_stops != null };
  const ends = floating === "aperture" ? aperturesOf(laid) : isosOf(laid);
  const nearest = ends.toSorted((a, b) => away(a, steered.value) - away(b, steered.value))[0];
  return nearest === undefined ? null : { mark: nearest, atEnd: true };
}

/** The bench with the mark of what is worked out, so that the sum shows what that mark gives. */
export function withMark(laid: Laid, mark: string | undefined): Laid {
  if (mark === undefined) return laid;
  const setting = laid.bench.floating === "aperture" ? "shotAperture" : "shotIso";
  return { ...laid, bench: { ...laid.bench, [setting]: mark } };
}

function hasIso(laid: Laid, mark: string): boolean {
  const isos = isosOf(laid);
  return isos.length === 0 || isos.includes(mark);
}

/** Normal speeds alone: an extended one costs highlights, and is taken by hand. */
function isosOf({ body, fixedIso }: Laid): string[] {
  return fixedIso === null ? (body?.offers.isos ?? []) : [fixedIso];
}

function aperturesOf({ lens, fixedAperture }: Laid): string[] {
  if (fixedAperture !== null) return [fixedAperture];
  return lens ? [String(lens.facts.aperture_widest), String(lens.facts.aperture_smallest)] : [];
}

/** How far two numbers of a dial lie apart, whichever is larger. */
function away(mark: string, value: number): number {
  return Math.abs(Math.log2(Number(mark) / value));
}
