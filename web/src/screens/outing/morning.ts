import type { Light, Swaps } from "../../questions/light";
import { type Axis, axis } from "../../parts/staff/axis";

/** The staff through the morning: what stands where over the clock. Times are in seconds, instants in ms. */

type Stretch = Swaps["stretches"][number];

/** A minute of the light, and what the meter says then at the settings of the plan. */
export interface Minute {
  ms: number;
  sd: number;
  metered: number;
  /** What the same meter says at EV 0: other settings, another level [s]. */
  level: number;
}

/** One filter's share of a stretch: its lower and upper edge at each minute. */
export interface Layer {
  id: string;
  stops: number;
  edges: { ms: number; from: number; to: number }[];
}

export function serves(stretch: Stretch): boolean {
  return stretch.glass !== null && stretch.seconds.length > 0;
}

/** What a meter says at EV 0 with the settings of a stretch [s]. */
function atEvZero(stretch: Stretch, light: Light): number | null {
  const point = light.points.find(({ at }) => at === stretch.start);
  const metered = stretch.metered[0];
  return point && metered !== undefined ? metered * 2 ** point.ev100 : null;
}

/**
 * What the meter says, minute by minute: at the settings of each stretch of the plan, between them at those of the one
 * before, at first at those of the first. `bare` is the bench's own, for where there is no plan.
 */
export function meteredOver(light: Light, swaps: Swaps | undefined, bare: number | null): Minute[] {
  const planned = (swaps?.stretches ?? []).filter(serves);
  const levels = planned.flatMap((stretch) => {
    const level = atEvZero(stretch, light);
    return level === null ? [] : [{ from: Date.parse(stretch.start), level }];
  });
  const first = levels[0]?.level ?? bare;
  if (first === null) return [];
  return light.points.map(({ at, ev100, sd_stops }) => {
    const ms = Date.parse(at);
    const level = levels.findLast(({ from }) => from <= ms)?.level ?? first;
    return { ms, sd: sd_stops, metered: level / 2 ** ev100, level };
  });
}

/** The minutes parted where the settings change: no light moved between them. */
export function partedBySettings(minutes: readonly Minute[]): Minute[][] {
  return minutes.reduce<Minute[][]>((parts, minute) => {
    const last = parts.at(-1);
    if (last?.[0]?.level === minute.level) last.push(minute);
    else parts.push([minute]);
    return parts;
  }, []);
}

/** The filters of a stretch in lens order, each as thick as its share of the stack; together they end in its time. */
export function layersOf(
  stretch: Stretch,
  stopsOf: (id: string) => { low: number; high: number } | undefined,
): Layer[] {
  const { start, end, glass, seconds, metered, turns } = stretch;
  if (!glass || seconds.length === 0) return [];
  const begins = Date.parse(start);
  const step = (Date.parse(end) - begins) / seconds.length;
  const strength = (id: string, at: number) => {
    const own = stopsOf(id);
    if (!own) return 0;
    return own.high > own.low ? Math.min(own.high, own.low + (turns[at] ?? 0)) : own.low;
  };
  // A stretch lasts to its end: the last minute's edge stands there too.
  const places = [...seconds.keys(), seconds.length];
  const below = places.map(() => 0);
  return glass.map((id) => {
    const edges = places.map((place) => {
      const at = Math.min(place, seconds.length - 1);
      const all = Math.max(
        1e-6,
        glass.reduce((sum, each) => sum + strength(each, at), 0),
      );
      const [bare = 1, whole = 1] = [metered[at], seconds[at]];
      const from = below[place] ?? 0;
      const to = Math.min(1, from + strength(id, at) / all);
      below[place] = to;
      const edge = (share: number) => bare * (whole / bare) ** share;
      return { ms: begins + place * step, from: edge(from), to: edge(to) };
    });
    return { id, stops: strength(id, 0), edges };
  });
}

/** An axis that holds the plan and the aim; the meter runs off it where nothing is planned. */
export function morningAxis(
  minutes: readonly Minute[],
  swaps: Swaps | undefined,
  aim: { from: number; to: number } | null,
  until: number,
  top: number,
  bottom: number,
): Axis {
  const planned = (swaps?.stretches ?? []).filter(serves);
  const times = planned.flatMap(({ seconds, metered }) => [...seconds, ...metered]);
  const before = minutes.filter(({ ms }, place) => ms <= until || place === 0).map(({ metered }) => metered);
  const held = times.length > 0 ? times : before;
  return axis([...held, ...(aim ? [aim.from, aim.to] : [])], top, bottom, 8);
}

/** What comes next of the plan: its first frame before it begins and after it is over, between them the next change. */
export function nextOfPlan(swaps: Swaps | undefined, now: number): { at: number; kind: "first" | "change" } | null {
  const planned = (swaps?.stretches ?? []).filter(serves);
  const starts = planned.map(({ start }) => Date.parse(start));
  const [first] = starts;
  if (first === undefined) return null;
  if (now < first || now > Date.parse(planned.at(-1)?.end ?? "")) return { at: first, kind: "first" };
  const coming = starts.find((start) => start > now);
  return coming === undefined ? null : { at: coming, kind: "change" };
}

/** Nobody wants to look closer than a quarter of an hour [ms]. */
const SHORTEST = 15 * 60_000;

/** Closer to an instant: half of the hours that are shown. */
export function closer([from, to]: [number, number], about: number, all: [number, number]): [number, number] {
  const half = Math.max(SHORTEST, (to - from) / 2) / 2;
  const middle = Math.min(all[1] - half, Math.max(all[0] + half, about));
  return [middle - half, middle + half];
}

/** The stretch of the plan that holds a minute; the last minute is still the last stretch's. */
export function stretchAt(swaps: Swaps | undefined, ms: number): Stretch | undefined {
  return swaps?.stretches.findLast(({ start, end }) => ms >= Date.parse(start) && ms <= Date.parse(end));
}

/** As fine as the plan counts: rounded to a mark of the dial the bench would give another time than the plan. */
export function evOf(point: Light["points"][number]): number {
  return Math.round(point.ev100 * 100) / 100;
}
