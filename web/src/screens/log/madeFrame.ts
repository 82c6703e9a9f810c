import { askExposure, type Exposure } from "../../questions/bench";
import type { Laid } from "../../state/bench";
import { glassGiven } from "../../state/asks";
import type { Glass } from "../../state/bag";
import type { Frame } from "../../state/frames";

export interface Made {
  openedAt: Date;
  seconds: number;
  shutter: string;
  aperture: string;
  iso: string;
  glass: Glass[];
}

/** A frame that no run kept: planned by the core where the bare reading is known, else its time is its plan. */
export async function madeFrame(made: Made, laid: Laid): Promise<Frame> {
  const { openedAt, seconds, shutter, aperture, iso, glass } = made;
  const read = { shutter, aperture, iso, step: laid.step, through: [] };
  const reading = shutter ? read : { step: laid.step };
  let planned: Exposure | null = null;
  if (shutter) {
    planned = await askExposure({
      reading: read,
      stack: glass.map(glassGiven),
      settings: {},
      scale: "exact",
      dial_limit: laid.dialLimit,
      purpose_stops: 0,
      monochrome: false,
    });
  }
  const closedAt = new Date(openedAt.getTime() + seconds * 1000);
  const event = (kind: "opened" | "closed", at: Date) => ({
    id: crypto.randomUUID(),
    at: at.toISOString(),
    kind,
    seconds: null,
  });
  return {
    id: crypto.randomUUID(),
    state: "closed",
    opened_at: openedAt.toISOString(),
    closed_at: closedAt.toISOString(),
    closed_by: "hand",
    note: "",
    reading: { ...reading, metered_at: null },
    settings: { aperture, iso },
    stack: glass.map((piece) => ({
      name: piece.name,
      stops: piece.stops,
      offset: piece.offset,
      in_reading: false,
      id: piece.id,
      kind: piece.kind,
    })),
    scale: "exact",
    dial_limit: laid.dialLimit,
    answer: planned
      ? {
          seconds: planned.seconds,
          set_seconds: planned.set_seconds,
          base_seconds: planned.base_seconds,
          sure_within_stops: planned.sure_within_stops,
          dial_mark: planned.dial_mark,
          steps: planned.steps,
        }
      : { seconds, set_seconds: seconds, base_seconds: seconds, sure_within_stops: 0, dial_mark: null, steps: [] },
    events: [event("opened", openedAt), event("closed", closedAt)],
    conditions: {
      body: laid.body?.name ?? null,
      body_id: laid.body?.id ?? null,
      lens: laid.lens?.name ?? null,
      lens_id: laid.lens?.id ?? null,
      focal_mm: laid.focalMm ?? null,
    },
    actual_seconds: seconds,
    error: null,
    pictured: false,
  };
}
