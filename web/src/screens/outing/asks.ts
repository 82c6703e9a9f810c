import type { Schemas } from "../../api/client";
import type { Light, Swaps } from "../../questions/light";
import type { PackQuestion } from "../../questions/pack";
import { itemsOf } from "../../state/bag";
import type { Laid } from "../../state/bench";
import type { KitItem } from "../../state/kit";
import { type Outing, span } from "../../state/outings";

/** Which part of the state the outing's own questions need; light, water and swaps stand in `state/asks.ts`. */

interface Given {
  outing: Outing;
  laid: Laid | null;
  swaps: Swaps | undefined;
  light: Light | undefined;
  /** The frames of the plan, where there is one. */
  frames?: Schemas["PlannedFramesAnswer"] | undefined;
  nameOf: (id: string) => string;
  items: KitItem[];
}

/** What the pack list grows from: bench, swap plan, light, weather and hazards. */
export function packOf({ outing, laid, swaps, light, frames, nameOf, items }: Given): PackQuestion {
  const body = laid?.body?.facts;
  const used = new Set(swaps?.stretches.flatMap((stretch) => stretch.glass ?? []) ?? laid?.bench.on ?? []);
  const stops = (ids: Iterable<string>) =>
    [...ids].reduce((sum, id) => sum + (laid?.bag.find((glass) => glass.id === id)?.high ?? 0), 0);
  const stacks = swaps?.stretches.map((stretch) => stretch.glass ?? []) ?? [laid?.bench.on ?? []];
  const times = swaps?.stretches.flatMap((stretch) => [stretch.first_seconds ?? 0, stretch.last_seconds ?? 0]) ?? [];
  const longest = Math.max(0, ...times);
  const [from, to] = span(outing);
  const openMs = (frames?.frames ?? []).reduce((sum, each) => sum + Date.parse(each.ready) - Date.parse(each.opens), 0);
  const openMinutes = openMs > 0 ? Math.min(10_080, Math.round(openMs / 60_000)) : null;
  const polariser = laid?.bag.find((glass) => glass.kind === "polariser")?.name;
  return {
    body: laid?.body?.name ?? null,
    lens: laid?.lens?.name ?? null,
    holder: laid?.holder?.name ?? null,
    support: itemsOf(items, "support")[0]?.name ?? null,
    release: itemsOf(items, "release")[0]?.name ?? null,
    film: laid?.film?.name ?? null,
    polariser: polariser ?? null,
    glass: [...used].map(nameOf).slice(0, 24),
    densest_stops: Math.max(0, ...stacks.map(stops)),
    longest_seconds: longest > 0 ? longest : null,
    dial_limit: laid?.dialLimit ?? 30,
    frames: longest > 0 ? Math.max(1, Math.floor((to - from) / 1000 / (longest + 60))) : null,
    battery_wh: body?.battery_wh ?? null,
    draw_w: body?.draw_w ?? 3,
    noise_reduction: reducesNoise(laid),
    celsius: outing.weather.celsius ?? null,
    wind_m_s: outing.weather.wind_m_s ?? null,
    wet: isWet(laid, outing),
    plates: Math.max(0, ...stacks.map((ids) => [...ids].filter((id) => isPlate(laid, id)).length)),
    open_minutes: openMinutes,
    dark: light?.points.some((point) => point.altitude_deg < DARK_BELOW) ?? false,
    tide: outing.waters.length > 0,
    hazards: outing.hazards,
  };
}

function isPlate(laid: Laid | null, id: string): boolean {
  return laid?.items.find((item) => item.id === id)?.facts.mount === "plate";
}

/** Whether water reaches the camera there: the sea's or a fall's, as far as somebody has said so. */
function isWet(laid: Laid | null, outing: Outing): boolean {
  return (
    outing.waters.length > 0 ||
    (laid?.bench.scene.subjects.some(({ kind }) => kind === "sea" || kind === "river") ?? false)
  );
}

/** Below this one wants a lamp to walk by: civil twilight ends. */
const DARK_BELOW = -6;

const HANDLING_SECONDS = 60;

/** How many frames of a time fit before an instant; null where there is no time left or none to speak of. */
export function budgetOf(
  laid: Laid | null,
  seconds: number | undefined,
  from: number,
  until: number,
  celsius: number,
): Schemas["BudgetInput"] | null {
  if (seconds === undefined || until <= from) return null;
  const body = laid?.body?.facts;
  return {
    seconds,
    available_seconds: Math.round((until - from) / 60_000) * 60,
    handling_seconds: HANDLING_SECONDS,
    noise_reduction: reducesNoise(laid),
    battery_wh: body?.battery_wh ?? null,
    draw_w: body?.draw_w ?? 3,
    celsius,
  };
}

/** The frames that fit into a plan of filters before it ends [ms]; null without one. */
export function framesOf(laid: Laid | null, swaps: Swaps | undefined, end: number): Schemas["FramesInput"] | null {
  const stretches = (swaps?.stretches ?? []).flatMap(({ start, end, first_seconds, last_seconds, hand_seconds }) =>
    first_seconds == null || last_seconds == null ? [] : [{ start, end, first_seconds, last_seconds, hand_seconds }],
  );
  if (stretches.length === 0) return null;
  return {
    stretches,
    until: new Date(end).toISOString(),
    handling_seconds: HANDLING_SECONDS,
    noise_reduction: reducesNoise(laid),
  };
}

/** Whether the body takes a dark frame after every long one, by its setting or because it cannot be told not to. */
function reducesNoise(laid: Laid | null): boolean {
  return (laid?.body?.facts.noise_reduction ?? "off") !== "off";
}
