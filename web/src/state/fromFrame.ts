import type { Bench, Glass } from "./bench";
import { type Cause, type Frame } from "./frames";
import { logWords } from "../words/log";
import type { ExposureQuestion } from "../questions/bench";

type Correction = NonNullable<ExposureQuestion["correction"]>;

/**
 * The bench as it stood for a frame, with what of its filters is still in the bag: as it was, or corrected by how the
 * frame came out. A time that was decided is worked out anew.
 */
export function benchOf(frame: Frame, bag: readonly Glass[], correction: Correction | null): Partial<Bench> {
  const { shutter, aperture, iso, ev100 } = frame.reading;
  const on = frame.stack.flatMap((piece) =>
    bag.filter((glass) => glass.id === piece.id).map((glass) => ({ piece, glass })),
  );
  const turned = on.filter(({ glass }) => glass.kind === "variable");
  const because: Cause | null = frame.review?.because ?? null;
  return {
    ...(ev100 == null
      ? { meter: "camera", ...(shutter && { shutter }), ...(aperture && { aperture }), ...(iso && { iso }) }
      : { meter: "hand", ev100 }),
    shotAperture: frame.settings.aperture,
    shotIso: frame.settings.iso,
    on: on.map(({ glass }) => glass.id),
    inReading: on.filter(({ piece }) => piece.in_reading).map(({ glass }) => glass.id),
    turned: Object.fromEntries(turned.map(({ piece, glass }) => [glass.id, piece.stops])),
    floating: "time",
    targetSeconds: null,
    purposeThirds: Math.round((frame.run?.purpose_stops ?? 0) * 3),
    monochrome: frame.conditions?.monochrome ?? false,
    // As it was includes what it had been corrected by itself.
    correction: correction ? { ...correction, because } : asItWas(frame),
  };
}

function asItWas({ run }: Frame): Bench["correction"] {
  if (!run || run.correction_stops === 0) return null;
  return { stops: run.correction_stops, name: logWords.asThen, because: run.correction_for ?? null };
}
