import type { Bench, Laid } from "./bench";

/** Holding a time: if it floated until now, the aperture floats instead, or the ISO where the aperture is fixed. */
export function holdTime(laid: Laid, seconds: number): Partial<Bench> {
  const { floating } = laid.bench;
  const instead = laid.fixedAperture === null ? "aperture" : laid.fixedIso === null ? "iso" : "stack";
  return { targetSeconds: seconds, floating: floating === "time" ? instead : floating };
}
