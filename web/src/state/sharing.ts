import * as v from "valibot";
import type { Glass } from "./bag";
import type { Bench, Laid } from "./bench";
import { MOST_GLASSES, MOST_THIRDS } from "./benchKept";
import { KINDS } from "./scene";
import { nowMs } from "../ui/worldClock";
import { SHARED } from "./sharingMark";

/**
 * A set-up as the fragment of an address: `#set-up=1.` and base64url of JSON in UTF-8. A fragment is not sent to any
 * server, so the link needs no account. What is read is checked against these bounds; anything else is no set-up.
 */

const VERSION = "1";
/** A longer one is not read: a stranger's link costs no more work than this [letters]. */
export const LONGEST = 6000;
const MOST_SUBJECTS = 8;

const mark = v.pipe(v.string(), v.minLength(1), v.maxLength(24));
const name = v.pipe(v.string(), v.minLength(1), v.maxLength(60));
const stops = v.pipe(v.number(), v.minValue(0), v.maxValue(30));
const GLASS = v.strictObject({
  name,
  kind: v.picklist(["solid", "variable", "polariser", "graduated", "combined"]),
  stops,
});
const FACT = v.union([v.pipe(v.number(), v.minValue(-1e6), v.maxValue(1e6)), v.pipe(v.string(), v.maxLength(24))]);
const SHAPE = v.strictObject({
  meter: v.picklist(["camera", "hand"]),
  shutter: mark,
  aperture: mark,
  iso: mark,
  ev100: v.pipe(v.number(), v.minValue(-20), v.maxValue(30)),
  meteredAt: v.nullable(v.pipe(v.string(), v.isoTimestamp(), v.maxLength(40))),
  shotAperture: v.nullable(mark),
  shotIso: v.nullable(mark),
  targetSeconds: v.nullable(v.pipe(v.number(), v.minValue(1 / 8000), v.maxValue(864_000))),
  purposeThirds: v.pipe(v.number(), v.integer(), v.minValue(-MOST_THIRDS), v.maxValue(MOST_THIRDS)),
  on: v.pipe(v.array(GLASS), v.maxLength(MOST_GLASSES)),
  through: v.pipe(v.array(GLASS), v.maxLength(MOST_GLASSES)),
  subjects: v.pipe(
    v.array(
      v.strictObject({
        kind: v.picklist(KINDS),
        facts: v.pipe(
          v.record(v.pipe(v.string(), v.maxLength(24)), FACT),
          v.check((facts) => Object.keys(facts).length <= 12),
        ),
      }),
    ),
    v.maxLength(MOST_SUBJECTS),
  ),
  wants: v.pipe(v.array(v.strictObject({ kind: v.picklist(KINDS), look: mark })), v.maxLength(MOST_SUBJECTS)),
});

export type Shared = v.InferOutput<typeof SHAPE>;
type SharedGlass = v.InferOutput<typeof GLASS>;

/** The bench as a fragment; what is personal (camera, outing, log) stays out of it. */
export function fragmentOf({ bench, stack, through }: Laid): string {
  const glass = (each: Glass): SharedGlass => ({
    name: each.name.slice(0, 60),
    kind: each.kind,
    stops: Math.max(0, each.stops),
  });
  const shared: Shared = {
    meter: bench.meter,
    shutter: bench.shutter,
    aperture: bench.aperture,
    iso: bench.iso,
    ev100: bench.ev100,
    meteredAt: bench.meteredAt,
    shotAperture: bench.shotAperture,
    shotIso: bench.shotIso,
    targetSeconds: bench.floating === "time" ? bench.targetSeconds : null,
    purposeThirds: bench.purposeThirds,
    on: stack.map(glass),
    through: through.map(glass),
    subjects: bench.scene.subjects.slice(0, MOST_SUBJECTS).map(({ kind, facts }) => ({ kind, facts })),
    wants: bench.scene.wants
      .flatMap(({ kind, look }) => (isKind(kind) ? [{ kind, look }] : []))
      .slice(0, MOST_SUBJECTS),
  };
  return `${SHARED}${VERSION}.${encoded(JSON.stringify(shared))}`;
}

/** The set-up of a fragment; null where it is none of this version, or outside its bounds. */
export function readShared(fragment: string): Shared | null {
  if (!fragment.startsWith(`${SHARED}${VERSION}.`) || fragment.length > LONGEST) return null;
  try {
    const read = v.safeParse(SHAPE, JSON.parse(decoded(fragment.slice(SHARED.length + VERSION.length + 1))));
    return read.success ? read.output : null;
  } catch {
    return null;
  }
}

/** The bench set up so with the filters of this bag, and the names of those that it lacks. */
export function benchFrom(shared: Shared, bag: readonly Glass[]): { change: Partial<Bench>; missing: string[] } {
  const taken = new Set<string>();
  const own = (wanted: SharedGlass): Glass | undefined => {
    const found =
      bag.find((glass) => !taken.has(glass.id) && glass.name === wanted.name && alike(glass, wanted)) ??
      bag.find((glass) => !taken.has(glass.id) && alike(glass, wanted));
    if (found) taken.add(found.id);
    return found;
  };
  const worn = shared.on.map((wanted) => ({ wanted, found: own(wanted) }));
  const { through, subjects, wants } = shared;
  const turned = worn.flatMap(({ wanted, found }) => (found?.kind === "variable" ? [[found.id, wanted.stops]] : []));
  return {
    change: {
      meter: shared.meter,
      shutter: shared.shutter,
      aperture: shared.aperture,
      iso: shared.iso,
      ev100: shared.ev100,
      // A clock that runs ahead must not make a reading newer than now.
      meteredAt: shared.meteredAt !== null && Date.parse(shared.meteredAt) > nowMs() ? null : shared.meteredAt,
      shotAperture: shared.shotAperture,
      shotIso: shared.shotIso,
      targetSeconds: shared.targetSeconds,
      purposeThirds: shared.purposeThirds,
      floating: "time",
      expectedSd: null,
      earlier: [],
      before: [],
      correction: null,
      seenLight: null,
      saidLight: null,
      useOuting: false,
      lightAt: null,
      throughSaid: [],
      on: worn.flatMap(({ found }) => (found ? [found.id] : [])),
      turned: Object.fromEntries(turned) as Record<string, number>,
      // Counted as it was there, whatever of it is in this bag.
      through: through.map((glass) => ({
        id: crypto.randomUUID(),
        turn: null,
        glass: { ...glass, offset: null, offset_sd: 0 },
      })),
      scene: {
        subjects: subjects.map((subject) => ({ id: crypto.randomUUID(), ...subject })),
        wants,
        elevationDeg: 0,
        bearingDeg: 0,
      },
    },
    missing: worn.flatMap(({ wanted, found }) => (found ? [] : [wanted.name])),
  };
}

function alike(glass: Glass, wanted: SharedGlass): boolean {
  if (glass.kind !== wanted.kind) return false;
  return glass.kind === "variable"
    ? wanted.stops >= glass.low - 0.05 && wanted.stops <= glass.high + 0.05
    : Math.abs(glass.stops - wanted.stops) < 0.05;
}

function isKind(kind: string): kind is (typeof KINDS)[number] {
  return (KINDS as readonly string[]).includes(kind);
}

function encoded(text: string): string {
  const bytes = String.fromCharCode(...new TextEncoder().encode(text));
  return btoa(bytes).replaceAll("+", "-").replaceAll("/", "_").replace(/=+$/, "");
}

function decoded(text: string): string {
  const bytes = atob(text.replaceAll("-", "+").replaceAll("_", "/"));
  return new TextDecoder("utf-8", { fatal: true }).decode(Uint8Array.from(bytes, (letter) => letter.charCodeAt(0)));
}
