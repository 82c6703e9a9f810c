import type { Schemas } from "../../api/client";
import { filmOf, ontoOf, readingOf, wishedOf } from "../../state/asks";
import { itemsOf, kitGlass } from "../../state/bag";
import { type Glass, type Laid, settingsOf, stayedOn, wasOn } from "../../state/bench";
import type { KitItem } from "../../state/kit";
import { type Outing, placeOf } from "../../state/outings";

/** Which part of the state the bench's own questions need; sum, looks and light stand in `state/asks.ts`. */

/** Stacks of the bag that reach a target, with how far each variable glass can be turned. */
export function stacksOf(
  laid: Laid,
  target: Schemas["TargetInput"],
  ends: Record<string, number>,
): Schemas["FinderInput"] {
  const { lens, body, holder, fixedAperture, fixedIso } = laid;
  const room = (holder?.facts.slots ?? 2) + (holder?.facts.polariser_ring ? 1 : 0);
  const normal = body?.offers.isos ?? [laid.bench.iso];
  const extended = body?.facts.iso_extended;
  return {
    reading: readingOf(laid),
    glass: laid.items
      .slice(0, 24)
      .map((item) => ({ ...kitGlass(item), ...(ends[item.id] && { usable_max: ends[item.id] }) })),
    slots: Math.max(0, Math.min(4, room)),
    target,
    apertures: fixedAperture
      ? [Number(fixedAperture), Number(fixedAperture)]
      : // As marks: a lens says 22 and means f/22.63.
        [String(lens?.facts.aperture_widest ?? 2.8), String(lens?.facts.aperture_smallest ?? 22)],
    isos: fixedIso ? [Number(fixedIso)] : [...normal, ...(extended == null ? [] : [String(extended)])],
    // The extended low ISO costs highlights: it may serve, but it is no base.
    iso_base: fixedIso ? Number(fixedIso) : (normal[0] ?? laid.bench.iso),
    must: staying(laid),
    sharp_to: lens?.facts.sharp_to ?? body?.offers.sharp_to ?? 11,
    on: laid.stack.map((glass) => glass.id),
    film: filmOf(laid),
    wished_stops: wishedOf(laid),
    order: "hands",
    onto: ontoOf(laid),
    set_to: settingsOf(laid),
  };
}

/** What stays on whatever is worked out: a graduated filter, and a polariser that one has metered through. */
export function staying(laid: Laid): string[] {
  const stays = (glass: Glass) =>
    glass.kind === "graduated" || ((glass.kind === "polariser" || glass.kind === "combined") && wasOn(laid, glass));
  return laid.stack.filter(stays).map(({ id }) => id);
}

/** What is on the lens, for what may be wrong with it. */
export function rigOf(laid: Laid, kit: KitItem[]): Schemas["RigInput"] {
  const rings = itemsOf(kit, "accessory").filter((item) => item.facts.kind === "step_ring");
  return {
    glass: laid.stack.map((glass) => ({
      name: glass.name,
      facts: { ...laid.items.find((item) => item.id === glass.id)?.facts },
      stops: Math.max(0, glass.stops + (glass.offset ?? 0)),
      in_reading: stayedOn(laid, glass),
    })),
    body: laid.body ? { ...laid.body.facts } : null,
    lens: laid.lens ? { ...laid.lens.facts } : null,
    holder: laid.holder ? { ...laid.holder.facts } : null,
    focal_mm: laid.focalMm ?? null,
    through_stops: laid.through.reduce((sum, glass) => sum + Math.max(0, glass.stops + (glass.offset ?? 0)), 0),
    f_number: fNumber(settingsOf(laid).aperture),
    step_rings: rings.map((item) => ({ ...item.facts })),
  };
}

function fNumber(mark: string): number | null {
  const number = Number(mark);
  return number >= 0.5 && number <= 512 ? number : null;
}

const STEP_SECONDS = 60;
const HOURS = 20;

/** When an outing's light will be what a floating reading wants. */
export function waitOf(
  outing: Outing,
  laid: Laid,
  from: number,
  seconds: number,
  ev100: number | undefined,
): Schemas["WaitInput"] {
  const { meteredAt, expectedSd } = laid.bench;
  // What was metered here just now says more of the light than the sky's kind does.
  const own = ev100 !== undefined && meteredAt !== null && expectedSd === null ? [{ at: meteredAt, ev100 }] : [];
  const start = Math.round(from / 60_000) * 60_000;
  const settings = laid.bench.meter === "hand" ? settingsOf(laid) : laid.bench;
  return {
    ...placeOf(outing),
    readings: [...outing.readings.slice(own.length - MOST_READINGS), ...own],
    from: new Date(start).toISOString(),
    to: new Date(start + HOURS * 3_600_000).toISOString(),
    step_seconds: STEP_SECONDS,
    wanted: { ...readingOf(laid), ev100: null, shutter: seconds, aperture: settings.aperture, iso: settings.iso },
  };
}

/** So many readings the forecast takes. */
const MOST_READINGS = 200;

const NEWCOMER = { aperture: 2.8, smallest: 22 };

/** The longest time without glass. */
export function bareOf(laid: Laid): Schemas["ReachInput"] | null {
  if (laid.bench.meter !== "camera") return null;
  return {
    reading: readingOf(laid),
    glass: [],
    slots: 0,
    widest: laid.lens?.facts.aperture_widest ?? NEWCOMER.aperture,
    sharp_to: laid.lens?.facts.aperture_smallest ?? NEWCOMER.smallest,
    isos: laid.body?.offers.isos ?? ["100"],
    wished: [],
  };
}

/** What a reading is remembered for: all that is on the lens, then each solid glass of the bag. */
export function rememberedOf(laid: Laid): { id: string; name: string | null; stops: number }[] {
  const measured = (glass: Laid["bag"][number]) => Math.max(0, glass.stops + (glass.offset ?? 0));
  const on = laid.stack.filter((glass) => glass.kind !== "graduated");
  const all = { id: "stack", name: null, stops: on.reduce((sum, glass) => sum + measured(glass), 0) };
  const solid = laid.bag.filter((glass) => glass.kind === "solid");
  const each = solid.map((glass) => ({ id: glass.id, name: glass.name, stops: measured(glass) }));
  return on.length > 1 || on.some((glass) => glass.kind !== "solid") ? [all, ...each] : each;
}

/** The bare reading that makes each of them give a time. */
export function pairsOf(laid: Laid, target: number): Schemas["SolveInput"][] {
  const settings = settingsOf(laid);
  return rememberedOf(laid).map(({ stops }) => ({
    float: "reading",
    reading: { shutter: 1, ...settings, step: laid.step, through: [] },
    stops,
    stack: [],
    settings: {},
    target_seconds: target,
    dial_limit: laid.dialLimit,
    wished_stops: 0,
  }));
}
