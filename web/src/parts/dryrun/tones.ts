import type { Developed } from "../../questions/dryRun";

type Tone = Developed["tones"][number];
export type PartName = Tone["part"];

/** How each part is coloured in even light: red, green, blue beside its brightness. */
const TINTS: Record<PartName, [number, number, number]> = {
  sky: [0.88, 0.98, 1.2],
  sun: [1.25, 0.98, 0.6],
  land: [0.98, 1.0, 0.98],
  water: [0.86, 1.0, 1.12],
  ground: [1.1, 0.99, 0.86],
  lamp: [1.3, 0.97, 0.5],
  people: [1.05, 0.98, 0.95],
  leaves: [0.82, 1.1, 0.62],
};
/** So many mired double the red against the blue, about. */
const MIRED_STOP = 200;

/** The sRGB colour of a part of the picture (IEC 61966-2-1), full where it is white, shifted by the filters' cast. */
export function colourOf(tone: Pick<Tone, "part" | "brightness">, castMired: number, by = 0): string {
  const shift = castMired / MIRED_STOP / 2;
  const [red, green, blue] = TINTS[tone.part];
  const lit = tone.brightness * 2 ** by;
  const channels = [red * 2 ** shift, green, blue * 2 ** -shift].map((tint) => encoded(Math.min(1, lit * tint)));
  return `rgb(${channels.join(" ")})`;
}

function encoded(linear: number): number {
  const code = linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055;
  return Math.round(255 * Math.min(1, Math.max(0, code)));
}

/** How much of what moves is still to be seen, by the look that the time gave: 1 as it stood, 0 gone. */
export const LEFT: Record<string, number> = {
  crisp: 1,
  texture: 0.7,
  veil: 0.35,
  mirror: 0.08,
  fog: 0,
  still: 1,
  "soft edges": 0.75,
  streaks: 0.5,
  "one tone": 0.05,
  blurred: 0.8,
  ghosts: 0.35,
  gone: 0,
  "even veil": 0.1,
  sharp: 1,
  soft: 0.6,
  smeared: 0.3,
};
