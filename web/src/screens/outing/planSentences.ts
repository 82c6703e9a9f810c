import { leaveText } from "../../parts/leaving/leaveText";
import type { Swaps, Tide } from "../../questions/light";
import { type Outing, skiesOf } from "../../state/outings";
import { words } from "../../words";
import { clockOf, placeClock } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { dayName } from "../../words/zone";

const say = outingWords.sentences;

/** An outing's plan in sentences, each as long as a breath. */
export function whereOf({ latitude, longitude, zone }: Outing): string {
  const [north, east] = [Math.abs(latitude).toFixed(3), Math.abs(longitude).toFixed(3)];
  return say.where(
    latitude < 0 ? say.south(north) : say.north(north),
    longitude < 0 ? say.west(east) : say.east(east),
    zone,
  );
}

/** The day, and the hours until the plan ends. */
export function whenOf({ date, arrive, zone }: Outing, end: number): string {
  return say.when(dayName(date), clockOf(arrive), placeClock(end, zone));
}

export function skyOf(outing: Outing): string {
  const skies = [outing.sky, ...skiesOf(outing).map(({ sky }) => sky)].map((sky) => outingWords.skies[sky] ?? sky);
  return say.sky(skies, outingWords.scenes[outing.scene] ?? outing.scene);
}

export function tideOf({ waters, floods_at_m }: Outing): string {
  if (waters.length === 0) return say.noTide;
  return say.tide(
    waters.map(({ time, height_m }) => `${clockOf(time)} ${height_m.toFixed(1)} m`),
    floods_at_m === null ? null : floods_at_m.toFixed(1),
  );
}

export function weatherOf({ weather }: Outing): string {
  const { celsius, wind_m_s, swell_m } = weather;
  return say.weather([
    ...(celsius == null ? [] : [say.celsius(celsius)]),
    ...(wind_m_s == null ? [] : [say.wind(wind_m_s)]),
    ...(swell_m == null ? [] : [say.swell(swell_m)]),
  ]);
}

/** Day, sky and weather in a breath. */
export function headOf(outing: Outing): string {
  const { celsius, wind_m_s } = outing.weather;
  const skies = [outing.sky, ...skiesOf(outing).map(({ sky }) => sky)].map((sky) => outingWords.skies[sky] ?? sky);
  return [
    dayName(outing.date),
    skies.join(", then "),
    ...(celsius == null ? [] : [say.celsius(celsius)]),
    ...(wind_m_s == null ? [] : [say.wind(wind_m_s)]),
  ].join(", ");
}

/** When to leave for the water's sake; what is not known, or not yet, is said to be unknown. */
export function leaveOf({ waters, floods_at_m, zone }: Outing, tide: Tide | undefined): string {
  if (waters.length < 2 || floods_at_m === null) return words.leaving.noWaters;
  return tide === undefined ? words.leaving.notYet : leaveText(tide, zone);
}

/** Why a stretch of the plan has no way to shoot. */
export function noWay(stretch: Swaps["stretches"][number]): string {
  return stretch.too_fast ? outingWords.tooFast : outingWords.outOfAim;
}
