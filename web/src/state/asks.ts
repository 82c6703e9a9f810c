import type { Schemas } from "../api/client";
import type { ExposureQuestion, SteerQuestion } from "../questions/bench";
import type { SceneQuestion } from "../questions/looks";
import { kitGlass } from "./bag";
import { type Bench, type Glass, glassThrough, type Laid, settingsOf } from "./bench";
import { type LightWatch, looksFrom } from "./lightWatch";
import type { OwnLook } from "./looks";
import { type Outing, placeOf, span, watersAt } from "./outings";
import { crossingsAt } from "./planning";

/** Which part of the state goes into the questions that several screens ask. What one screen asks stands beside it. */

/** The question the bench asks; `change` asks "what if" without touching the bench. */
export function exposureOf(laid: Laid, change: Partial<Bench> = {}): ExposureQuestion {
  const changed = { ...laid.bench, ...change };
  return {
    reading: readingOf(laid, change),
    stack: laid.stack.map(glassGiven),
    settings: settingsOf({ ...laid, bench: changed }),
    scale: changed.scale,
    dial_limit: laid.dialLimit,
    film: filmOf(laid),
    light: laid.light,
    // A time that is held is the time of the frame, whatever the nearest aperture or ISO leaves over.
    chosen_seconds: HELD.includes(changed.floating) ? changed.targetSeconds : null,
    fineness_seconds: laid.timerSeconds,
    expected_sd: changed.expectedSd,
    correction: changed.correction && { stops: changed.correction.stops, name: changed.correction.name },
    purpose_stops: changed.purposeThirds / 3,
    monochrome: changed.monochrome,
  };
}

/** What may be worked out while the time that was decided is the one that is exposed. */
const HELD: readonly Bench["floating"][] = ["time", "aperture", "iso"];

/** How much longer (+) than the meter asks the frame is to be, by what the last one taught and on purpose [stops]. */
export function wishedOf({ bench: { correction, purposeThirds } }: Laid): number {
  return (correction?.stops ?? 0) + purposeThirds / 3;
}

/** The film's law as a question carries it. */
export function filmOf(laid: Laid): NonNullable<ExposureQuestion["film"]> | null {
  return laid.film?.law ?? null;
}

export function readingOf(laid: Laid, change: Partial<Bench> = {}): ExposureQuestion["reading"] {
  const changed = { ...laid.bench, ...change };
  if (changed.meter === "hand") return { ev100: changed.ev100, step: laid.step, through: [] };
  const { shutter, iso } = changed;
  // A camera that cannot change its aperture meters at it as well.
  const aperture = laid.fixedAperture ?? changed.aperture;
  const through = change.through === undefined ? laid.through : glassThrough(change.through, laid.items);
  return { shutter, aperture, iso, step: laid.step, through: through.map(glassGiven) };
}

/** The readings of this scene so far and what was watched since, for how the light moves; null where there is neither. */
export function rateOf(
  laid: Laid,
  now: number,
  forecast: Schemas["KnownRateInput"] | null,
  watch: LightWatch | null = null,
): Schemas["RateInput"] | null {
  const { earlier, meteredAt } = laid.bench;
  if (meteredAt === null) return null;
  const metered = Date.parse(meteredAt);
  const looks = looksFrom(watch, metered, metered);
  if (earlier.length === 0 && !looks.some(({ at_seconds }) => at_seconds > 0)) return null;
  const readings = [
    ...earlier.map((each) => ({ reading: readingOf(laid, each), at: each.at })),
    { reading: readingOf(laid), at: meteredAt },
  ];
  // Half minutes are as fine as a rate deserves; what is watched is known to the last look.
  const lastLook = metered + (looks.at(-1)?.at_seconds ?? 0) * 1000;
  const at = Math.max(looks.length > 0 ? Math.round(lastLook) : Math.round(now / 30_000) * 30_000, metered);
  return { readings, at: new Date(at).toISOString(), forecast, looks };
}

/** A filter as a question carries it. */
export function glassGiven(glass: Glass): NonNullable<ExposureQuestion["stack"]>[number] {
  return {
    id: glass.id,
    name: glass.name,
    kind: glass.kind,
    stops: glass.stops,
    ...(glass.open !== undefined && { stops_max: glass.stops + glass.open }),
    // The core takes a spread only beside an offset; a range that was never measured has none.
    offset: glass.offset ?? (glass.low === glass.high ? null : 0),
    offset_sd: glass.offset_sd,
    in_reading: false,
  };
}

/** The question behind what is worked out instead of the time; null while the time is, or nothing is held. */
export function steerOf(laid: Laid): SteerQuestion | null {
  const { floating, targetSeconds } = laid.bench;
  if (floating === "time" || targetSeconds === null) return null;
  const exposure = exposureOf(laid);
  return {
    float: floating,
    reading: exposure.reading,
    stops: 0,
    stack: floating === "stack" ? [] : laid.stack.map(glassGiven),
    light: laid.light,
    settings: exposure.settings,
    target_seconds: targetSeconds,
    dial_limit: laid.dialLimit,
    film: exposure.film ?? null,
    wished_stops: wishedOf(laid),
  };
}

/** The sum that a wish comes to: the filters that are needed as one, or the reading that is waited for. */
export function wishedSum(laid: Laid, steered: { value: number } | undefined): ExposureQuestion | null {
  const { floating } = laid.bench;
  if (!steered || (floating !== "stack" && floating !== "reading")) return null;
  const sum = exposureOf(laid);
  if (floating === "stack") return { ...sum, stack: [{ stops: Math.max(0, steered.value), in_reading: false }] };
  return { ...sum, reading: { ...sum.reading, ev100: null, shutter: steered.value }, light: null };
}

/** What is in front of the camera. */
export function sceneOf(laid: Laid): SceneQuestion {
  const { scene } = laid.bench;
  return {
    camera: {
      focal_mm: laid.focalMm ?? 50,
      sensor_width_mm: laid.body?.facts.sensor_width_mm ?? 36,
      pitch_um: laid.body?.facts.pitch_um ?? 4.35,
      elevation_deg: scene.elevationDeg,
      bearing_deg: scene.bearingDeg,
    },
    subjects: scene.subjects.map(({ id, kind, facts }) => ({ id, kind, ...facts })),
  };
}

export function looksOf(laid: Laid, own: readonly OwnLook[]): Schemas["LooksInput"] {
  return { ...sceneOf(laid), wants: laid.bench.scene.wants, own: [...own] };
}

/** How far each variable glass of the bag can be turned before this lens. */
export function usableOf(laid: Laid): Schemas["UsableInput"] | null {
  const variable = laid.items.filter((item) => item.facts.kind === "variable");
  if (variable.length === 0 || laid.focalMm === undefined) return null;
  return {
    glass: variable.map((item) => ({ ...item.facts })),
    focal_mm: laid.focalMm,
    body: laid.body ? { ...laid.body.facts } : null,
  };
}

/** The same answers by id. */
export function endsById(laid: Laid, ends: (number | null)[] | undefined): Record<string, number> {
  const variable = laid.items.filter((item) => item.facts.kind === "variable");
  return Object.fromEntries(variable.flatMap((item, at) => (ends?.[at] == null ? [] : [[item.id, ends[at]]])));
}

const STEP_SECONDS = 60;

/** An outing's place and time, as the questions about its light carry them. */
export function lightOf(outing: Outing): Schemas["LightInput"] {
  const [from, to] = span(outing);
  return {
    ...placeOf(outing),
    from: new Date(from).toISOString(),
    to: new Date(to).toISOString(),
    step_seconds: STEP_SECONDS,
  };
}

const MARKS = 48;
const ASKED_EVERY = 10 * 60_000;

/**
 * Heights of the water over an outing, and the time to leave from its beginning on, or from now while it goes on; null
 * without entered waters. `outings` are all of them: what was watched at the place counts, on whichever day.
 */
export function tideOf(outing: Outing, outings: readonly Outing[], now: number): Schemas["TideInput"] | null {
  if (outing.waters.length === 0) return null;
  const [from, to] = span(outing);
  const at = now > from && now < to ? Math.max(from, Math.floor(now / ASKED_EVERY) * ASKED_EVERY) : from;
  return {
    waters: watersAt(outing),
    crossings: crossingsAt(outing, outings),
    at: new Date(at).toISOString(),
    floods_at_m: outing.floods_at_m,
    walk_minutes: outing.walk_minutes,
    margin_minutes: outing.margin_minutes,
    marks: Array.from({ length: MARKS + 1 }, (_, at) => new Date(from + ((to - from) * at) / MARKS).toISOString()),
  };
}

/** Whether the bench's reading fits an outing's sky at an instant. */
export function plausibleOf(outing: Outing, laid: Laid, at: number): Schemas["PlausibleInput"] {
  return {
    ...placeOf(outing),
    at: new Date(Math.round(at / 60_000) * 60_000).toISOString(),
    reading: readingOf(laid),
  };
}

/** The time of the look, with what of this bag can give it; null without a look. */
export function wishOf(
  laid: Laid | null,
  aim: Schemas["LooksAnswer"]["aim"] | undefined,
): NonNullable<Schemas["DaysInput"]["wish"]> | null {
  if (!laid || !aim) return null;
  return {
    from_seconds: Math.max(aim.from_seconds, 1 / 1000),
    to_seconds: aim.to_seconds ?? aim.middle_seconds * 4,
    glass: laid.items.slice(0, 24).map(kitGlass),
    slots: Math.min(4, laid.holder?.facts.slots ?? 2),
    apertures: [String(laid.lens?.facts.aperture_widest ?? 2.8), String(laid.lens?.facts.aperture_smallest ?? 22)],
    isos: laid.body?.offers.isos.slice(0, 3) ?? ["100"],
    sharp_to: laid.body?.offers.sharp_to ?? 11,
    on: laid.bench.on ?? [],
    film: filmOf(laid),
    onto: ontoOf(laid),
  };
}

/** What filters go onto. */
export function ontoOf({ lens, holder }: Laid): Schemas["OntoInput"] {
  return { thread_mm: lens?.facts.thread_mm ?? null, holder_mm: holder?.facts.size_mm ?? null };
}

/** When the plan ends [ms]: when one wants to turn back, or has to leave before that. */
export function endOf(outing: Outing, tide: Schemas["TideAnswer"] | undefined): number {
  const to = span(outing)[1];
  return tide?.leave_by == null ? to : Math.min(to, Date.parse(tide.leave_by));
}

/** The light until the plan ends; null where one has to leave before it begins. */
export function lightUntil(outing: Outing, end: number): Schemas["LightInput"] | null {
  const light = lightOf(outing);
  return end <= Date.parse(light.from) ? null : { ...light, to: new Date(end).toISOString() };
}

/** When to change glass so that the time stays in the aim until the plan ends; null without an aim. */
export function swapsOf(
  outing: Outing,
  laid: Laid | null,
  aim: Schemas["LooksAnswer"]["aim"] | undefined,
  end: number,
): Schemas["SwapsInput"] | null {
  const wish = wishOf(laid, aim);
  const light = lightUntil(outing, end);
  return wish && light && { ...light, ...wish };
}

/** The time to use: beside the one that is worked out, or what something else is worked out for. */
export function holdTime(seconds: number): Partial<Bench> {
  return { targetSeconds: seconds };
}
