import type { Light } from "../../questions/light";

const QUARTER_MS = 15 * 60_000;

/** The light's points on the quarters of an hour, its first and last among them. */
export function everyQuarter(light: Light, every = QUARTER_MS): Light["points"] {
  return light.points.filter(
    ({ at }, place) => place === 0 || place === light.points.length - 1 || Date.parse(at) % every === 0,
  );
}
