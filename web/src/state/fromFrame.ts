import type { ExposureQuestion } from "../questions/bench";
import { logWords } from "../words/log";
import type { Bench, Glass } from "./bench";
import type { Cause, Frame } from "./frames";

/** How well a filter's label is known that is in no bag any more [stops]. */
const UNMEASURED_SD = 0.17;

/** What of a frame the bench stands for. */
type SetUp = Pick<Frame, "reading" | "settings" | "stack"> & Partial<Pick<Frame, "run" | "conditions" | "review">>;
type Correction = NonNullable<ExposureQuestion["correction"]>;

/**
 * The bench as it stood for a frame, with what of its filters is still in the bag: as it was, or corrected by how the
 * frame came out. A time that was decided is worked out anew.
 */
export function benchOf(frame: SetUp, bag: readonly Glass[], correction: Correction | null): Partial<Bench> {
  const { shutter, aperture, iso, ev100 } = frame.reading;
  const on = frame.stack.flatMap((piece) =>
    bag.filter((glass) => glass.id === piece.id).map((glass) => ({ piece, glass })),
  );
  const turned = on.filter(({ glass }) => glass.kind === "variable");
  const then = frame.reading.through ?? frame.stack.filter((glass) => glass.in_reading);
  const because: Cause | null = frame.review?.because ?? null;
  return {
    ...(ev100 == null
      ? { meter: "camera", ...(shutter && { shutter }), ...(aperture && { aperture }), ...(iso && { iso }) }
      : { meter: "hand", ev100 }),
    ...(frame.settings.aperture && { shotAperture: frame.settings.aperture }),
    ...(frame.settings.iso && { shotIso: frame.settings.iso }),
    on: on.map(({ glass }) => glass.id),
    through: then.map((glass) => ({
      id: glass.id ?? "",
      turn: glass.kind === "variable" ? glass.stops : null,
      glass: {
        name: glass.name,
        kind: glass.kind ?? "solid",
        stops: glass.stops,
        offset: glass.offset ?? null,
        offset_sd: UNMEASURED_SD,
      },
    })),
    throughSaid: then.map(({ id }) => id ?? ""),
    turned: Object.fromEntries(turned.map(({ piece, glass }) => [glass.id, piece.stops])),
    floating: "time",
    targetSeconds: null,
    purposeThirds: Math.round((frame.run?.purpose_stops ?? 0) * 3),
    monochrome: frame.conditions?.monochrome ?? false,
    // As it was includes what it had been corrected by itself.
    correction: correction ? { ...correction, because } : asItWas(frame),
  };
}

function asItWas({ run }: Partial<Pick<Frame, "run">>): Bench["correction"] {
  if (!run || run.correction_stops === 0) return null;
  return { stops: run.correction_stops, name: logWords.asThen, because: run.correction_for ?? null };
}
