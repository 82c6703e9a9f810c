import type { Exposure } from "../../questions/bench";
import type { ArmQuestion } from "../../questions/checklist";
import { exposureOf } from "../../state/asks";
import { itemsOf, releaseOf } from "../../state/bag";
import { type Laid, settingsOf, stayedOn } from "../../state/bench";
import { habits } from "../../state/habits";
import type { KitItem } from "../../state/kit";
import { type Outing, skyAt } from "../../state/outings";
import { saidOf } from "../../state/scene";
import { ITS_OWN } from "../../words/zone";
import type { Armed, Plan } from "../../state/armed";
import { answerOf, arm, unopened } from "../../state/running";

interface Given {
  laid: Laid;
  answered: Exposure;
  items: KitItem[];
  /** The outing whose light and weather count, and the instant. */
  outing: Outing | null;
  at: number;
  /** The window wished for. */
  aim: { from_seconds: number; to_seconds: number | null } | null;
}

/** What it is like: what bench and outing know of it, for the log. */
function conditionsOf({ laid, outing, aim, answered, at }: Pick<Given, "laid" | "outing" | "aim" | "answered" | "at">) {
  const { bench, body, lens, stack, items } = laid;
  const rims = stack.flatMap((glass) => items.filter((item) => item.id === glass.id).map((item) => item.facts));
  const depths = rims.flatMap((facts) => facts.rim_depth_mm ?? []);
  const openings = rims.flatMap((facts) => facts.clear_mm ?? []);
  // What nobody has said is not written down as if it had been seen.
  return {
    place: outing?.name ?? null,
    zone: outing?.zone ?? ITS_OWN,
    body: body?.name ?? null,
    body_id: body?.id ?? null,
    lens: lens?.name ?? null,
    lens_id: lens?.id ?? null,
    focal_mm: laid.focalMm ?? null,
    rims_mm: depths.length > 0 ? depths.reduce((sum, depth) => sum + depth, 0) : null,
    opening_mm: openings.length > 0 ? Math.min(...openings) : null,
    pitch_deg: bench.scene.toldElevation === true ? bench.scene.elevationDeg : null,
    ev100: answered.scene_ev100,
    sky: outing ? skyAt(outing, at) : null,
    swell_m: outing?.weather.swell_m ?? saidOf(bench.scene, "sea", "height_m"),
    period_s: saidOf(bench.scene, "sea", "period_s"),
    wind_m_s: outing?.weather.wind_m_s ?? null,
    celsius: outing?.weather.celsius ?? null,
    monochrome: bench.monochrome || null,
    aim_from_seconds: aim?.from_seconds ?? null,
    aim_to_seconds: aim?.to_seconds ?? null,
  };
}

/** Everything Run needs from the bench: the plan, the question behind it, and what the arm list grows from. */
function toArm({ laid, answered, items, outing, at, aim }: Given): Pick<Armed, "plan" | "question" | "list"> {
  const { bench, stack } = laid;
  const plan: Plan = {
    reading: {
      ...(bench.meter === "hand"
        ? { ev100: bench.ev100 }
        : { shutter: bench.shutter, aperture: bench.aperture, iso: bench.iso }),
      step: laid.step,
      metered_at: bench.meteredAt,
      through: laid.through.map((glass) => ({
        name: glass.name,
        stops: glass.stops,
        offset: glass.offset,
        in_reading: false,
        id: glass.id,
        kind: glass.kind,
      })),
    },
    settings: settingsOf(laid),
    stack: stack.map((glass) => ({
      name: glass.name,
      stops: glass.stops,
      offset: glass.offset,
      in_reading: stayedOn(laid, glass),
      id: glass.id,
      kind: glass.kind,
    })),
    conditions: conditionsOf({ laid, outing, aim, answered, at }),
    scale: bench.scale,
    dial_limit: laid.dialLimit,
    answer: answerOf(answered),
    run: unopened({
      metered_seconds: answered.metered_seconds,
      film: laid.film?.law ?? null,
      stops_per_minute: laid.light?.stops_per_minute ?? null,
      rate_sd: laid.light?.rate_sd ?? null,
      delay_seconds: laid.light?.delay_seconds ?? 0,
      // What a decided time lets in beside the light that was asked for was meant.
      bias_stops: answered.residue_stops,
      expected_sd: bench.expectedSd,
      correction_stops: bench.correction?.stops ?? 0,
      correction_for: bench.correction?.because ?? null,
      purpose_stops: bench.purposeThirds / 3,
    }),
  };
  const list: ArmQuestion = {
    seconds: answered.set_seconds,
    bulb: answered.bulb,
    glass: stack.map((glass) => ({
      name: glass.name,
      facts: { ...laid.items.find((item) => item.id === glass.id)?.facts },
      stops: Math.max(0, glass.stops + (glass.offset ?? 0)),
      in_reading: stayedOn(laid, glass),
    })),
    body: laid.body ? { ...laid.body.facts } : null,
    lens: laid.lens ? { ...laid.lens.facts } : null,
    holder: laid.holder ? { ...laid.holder.facts } : null,
    support: factsOf(itemsOf(items, "support")[0]),
    release: factsOf(releaseOf(items, habits().releaseId)),
    releases: itemsOf(items, "release").length,
    focal_mm: laid.focalMm ?? null,
    iso: plan.settings.iso,
    wind_m_s: outing?.weather.wind_m_s ?? null,
    celsius: outing?.weather.celsius ?? null,
    upright: false,
    burst: 0,
    open_since_seconds: 0,
    sun: outing && {
      latitude: outing.latitude,
      longitude: outing.longitude,
      at: new Date(at).toISOString(),
      focal_mm: laid.focalMm ?? 24,
      bearing_deg: bench.scene.bearingDeg,
      elevation_deg: bench.scene.elevationDeg,
    },
  };
  return { plan, question: exposureOf(laid), list };
}

function factsOf(item: { facts: object } | undefined): Record<string, unknown> | null {
  return item ? { ...item.facts } : null;
}

/** Take what stands on the bench to Run. */
export function armIt(given: Given): void {
  arm(toArm(given));
}
