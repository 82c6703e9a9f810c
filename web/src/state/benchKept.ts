import * as v from "valibot";
import type { Bench } from "./bench";
import { KINDS } from "./scene";

/** A bench as it is kept in the browser, of today and of earlier days. */

export const MOST_GLASSES = 8;
/** As far from the meter's grey as anybody means it [thirds of a stop]. */
export const MOST_THIRDS = 15;
export const MOST = 23;
const text = v.pipe(v.string(), v.maxLength(24));
const instant = v.pipe(v.string(), v.isoTimestamp());
const THROUGH = v.pipe(
  v.array(
    v.object({
      id: v.string(),
      turn: v.nullable(v.number()),
      glass: v.nullable(
        v.object({
          name: v.string(),
          kind: v.picklist(["solid", "variable", "polariser", "graduated", "combined"]),
          stops: v.number(),
          offset: v.nullable(v.number()),
          offset_sd: v.number(),
        }),
      ),
    }),
  ),
  v.maxLength(MOST_GLASSES),
);
const METERED = {
  meter: v.picklist(["camera", "hand"]),
  shutter: text,
  aperture: text,
  iso: text,
  ev100: v.number(),
  through: v.optional(THROUGH, []),
};
const TAKEN = v.pipe(v.array(v.object({ ...METERED, at: instant })), v.maxLength(MOST));
const SHAPE = v.object({
  ...METERED,
  meteredAt: v.nullable(instant),
  expectedSd: v.optional(v.nullable(v.number()), null),
  earlier: TAKEN,
  before: TAKEN,
  shotAperture: v.nullable(text),
  shotIso: v.nullable(text),
  scale: v.picklist(["exact", "as_marked"]),
  on: v.nullable(v.array(v.string())),
  throughSaid: v.array(v.string()),
  turned: v.record(v.string(), v.number()),
  bodyId: v.nullable(v.string()),
  lensId: v.nullable(v.string()),
  holderId: v.nullable(v.string()),
  filmId: v.nullable(v.string()),
  focalMm: v.nullable(v.number()),
  floating: v.picklist(["time", "aperture", "iso", "stack", "reading"]),
  targetSeconds: v.nullable(v.pipe(v.number(), v.minValue(0))),
  scene: v.object({
    subjects: v.array(
      v.object({
        id: v.string(),
        kind: v.picklist(KINDS),
        facts: v.record(v.string(), v.union([v.number(), v.string()])),
        told: v.optional(v.array(v.string())),
      }),
    ),
    wants: v.array(v.object({ kind: v.string(), look: v.string(), id: v.exactOptional(v.nullable(v.string())) })),
    elevationDeg: v.number(),
    bearingDeg: v.number(),
    toldElevation: v.optional(v.boolean()),
  }),
  useOuting: v.boolean(),
  lightAt: v.nullable(v.string()),
  skyBelieved: v.optional(v.nullable(instant), null),
  saidLight: v.optional(v.nullable(v.object({ at: instant, stopMinutes: v.number() })), null),
  skySeen: v.nullable(v.picklist(["full_sun", "hazy", "overcast", "shade", "dusk", "lamps"])),
  purposeThirds: v.pipe(v.number(), v.integer(), v.minValue(-MOST_THIRDS), v.maxValue(MOST_THIRDS)),
  monochrome: v.boolean(),
  correction: v.nullable(
    v.object({
      stops: v.pipe(v.number(), v.minValue(-10), v.maxValue(10)),
      name: v.pipe(v.string(), v.minLength(1), v.maxLength(80)),
      because: v.nullable(v.picklist(["scene", "filter", "taste"])),
    }),
  ),
  seenLight: v.nullable(
    v.object({
      at: instant,
      moved_stops: v.number(),
      moved_sd: v.number(),
      stops_per_minute: v.number(),
      rate_sd: v.number(),
    }),
  ),
});

/** A bench of an earlier day named what was in the reading by ids alone, all of it still on. */
function meteredBefore(content: { inReading?: string[]; turned?: Record<string, number> }): object {
  const { inReading, ...rest } = content;
  if (!inReading || "through" in content) return content;
  return { ...rest, through: inReading.map((id) => ({ id, turn: content.turned?.[id] ?? null, glass: null })) };
}

/** A bench that was kept; parts added since then stand as they first do. Null is none. */
export function readBench(content: object, first: Bench): Bench | null {
  const read = v.safeParse(SHAPE, { ...first, ...meteredBefore(content) });
  return read.success ? read.output : null;
}
