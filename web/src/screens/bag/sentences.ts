import type { ItemOf, KitItem } from "../../state/kit";
import { bagWords } from "../../words/bag";
import { dateOf, readDate } from "../../words/clock";
import { signedStops, timeText } from "../../words/times";

const say = bagWords.says;

/** What a code of a choice is called. */
export type LabelOf = (sort: KitItem["sort"], fact: string, code: string) => string;

/** What decides something about a thing, in a sentence. */
export function sentenceOf(item: KitItem, labelOf: LabelOf): string {
  const spoken = (code: string) => labelOf(item.sort, "kind", code);
  switch (item.sort) {
    case "body":
      return listed(ofBody(item));
    case "lens":
      return listed(ofLens(item));
    case "holder": {
      const { size_mm, slots, polariser_ring, rings_mm } = item.facts;
      return listed([
        say.holder(short(size_mm), slots),
        polariser_ring && say.ring,
        rings_mm.length > 0 && say.rings(rings_mm.map(short).join(", ")),
      ]);
    }
    case "glass":
      return ofFilter(item).join(" ");
    case "film":
      return listed(ofFilm(item));
    case "release": {
      const { delay_s, longest_s } = item.facts;
      return listed([
        say.release(spoken(item.facts.kind), short(delay_s)),
        longest_s !== null && say.holds(timeText(longest_s)),
      ]);
    }
    case "support":
      return listed([spoken(item.facts.kind), item.facts.hook && say.hook, item.facts.spikes && say.spikes]);
    case "accessory": {
      const { kind, from_mm, to_mm } = item.facts;
      return kind === "step_ring" && from_mm !== null && to_mm !== null
        ? say.stepRing(short(from_mm), short(to_mm))
        : spoken(kind);
    }
  }
}

/** How many stops a filter counts in sums, as short as it is known. */
export function strengthOf(item: ItemOf<"glass">): string {
  const { stops, stops_max, offset } = item.facts;
  const by = item.facts.kind === "graduated" ? 0 : (offset ?? 0);
  const text = (at: number) => (by === 0 ? short(at) : (at + by).toFixed(1));
  return stops_max == null ? text(stops) : `${text(stops)}–${text(stops_max)}`;
}

/** A day as people say it; what was typed otherwise stands as it was. */
function dayOf(day: string): string {
  return readDate(day) === null ? day : dateOf(day);
}

function ofBody({ facts }: ItemOf<"body">) {
  const isos = [facts.iso_lowest, facts.film ? facts.iso_lowest : facts.iso_highest].map(short);
  return [
    say.body(
      timeText(facts.dial_limit_s),
      [...new Set(isos)].join("–"),
      `${short(facts.sensor_width_mm)} × ${short(facts.sensor_height_mm)}`,
    ),
    facts.film && say.film,
    facts.dark_from_s !== null && say.darkFrom(timeText(facts.dark_from_s)),
  ];
}

function ofLens({ facts }: ItemOf<"lens">) {
  const { clear_from_mm, clear_rims_mm, clear_seen_on, takes } = facts;
  const known = clear_from_mm !== null && clear_rims_mm !== null;
  const corners = known ? say.clear(short(clear_from_mm), short(clear_rims_mm)) : say.unchecked;
  return [
    say.focal(short(facts.focal_min_mm), short(facts.focal_max_mm)),
    takes === "none" && say.takesNone,
    takes === "holder" && say.takesHolder,
    takes === "thread" && facts.thread_mm !== null && say.thread(short(facts.thread_mm)),
    takes !== "none" && corners,
    known && clear_seen_on !== "" && say.seenOn(dayOf(clear_seen_on)),
  ];
}

function ofFilm({ facts }: ItemOf<"film">) {
  const laws: Record<string, string> = {
    power: say.power(short(facts.p), timeText(facts.from_s)),
    additive: say.additive(short(facts.a), short(facts.b)),
    table: say.table(facts.points.length),
  };
  return [say.filmAt(short(facts.iso)), laws[facts.law] ?? ""];
}

function ofFilter(item: ItemOf<"glass">): string[] {
  const { facts } = item;
  const label = facts.label === "" ? bagWords.stops(short(facts.stops)) : facts.label;
  if (facts.kind === "graduated") return [say.graduated(bagWords.stops(short(facts.stops)), facts.transition)];
  const phrases = [say.sold(label, short(facts.tolerance))];
  if (facts.stops_max !== null) phrases.push(say.range(short(facts.stops), short(facts.stops_max)));
  const how = say.evidence[facts.evidence] ?? facts.evidence;
  const from = facts.measured_on === "" ? how : say.measuredOn(how, dayOf(facts.measured_on));
  const sure = short(facts.give_or_take ?? facts.tolerance);
  if (facts.offset === null) phrases.push(say.unmeasured);
  else if (facts.stops_max === null) phrases.push(say.measured((facts.stops + facts.offset).toFixed(1), sure, from));
  else phrases.push(say.offset(signedStops(facts.offset), sure, from));
  const ends = facts.usable_end.map(([focal = 0, stops = 0]) => say.cleanAt(short(stops), short(focal)));
  if (facts.kind === "variable" && ends.length > 0) phrases.push(say.clean(ends.join(", ")));
  if (facts.cast_mired !== null && Math.abs(facts.cast_mired) >= 5)
    phrases.push(say.cast(short(Math.abs(facts.cast_mired)), facts.cast_mired < 0));
  if (facts.cast_green !== null && Math.abs(facts.cast_green) >= 0.1)
    phrases.push(say.green(short(Math.abs(facts.cast_green)), facts.cast_green > 0));
  if (facts.corner_stops !== null && facts.corner_stops >= 0.15)
    phrases.push(say.corners(facts.corner_stops.toFixed(1)));
  return phrases;
}

function listed(parts: (string | false)[]): string {
  return parts.filter(Boolean).join("; ");
}

function short(value: number): string {
  return String(Number(value.toFixed(2)));
}
