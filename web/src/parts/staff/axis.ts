/** One axis for everything: time in stops, shortest at the bottom; a time's place on it [px]. */
export interface Axis {
  (seconds: number): number;
  /** The time at a height [s]. */
  at: (height: number) => number;
  /** The shortest and the longest time on it [s]. */
  ends: readonly [number, number];
}

export interface Tick {
  seconds: number;
  label: string;
}

const FRACTIONS = [2, 4, 8, 15, 30, 60, 125, 250, 500, 1000, 2000, 4000, 8000, 16000, 32000];
const MARKS: Tick[] = [
  ...FRACTIONS.map((n, place) => ({ seconds: 2 ** -(place + 1), label: `1/${n}` })).reverse(),
  ...[1, 2, 4, 8, 15, 30].map((n, place) => ({ seconds: 2 ** place, label: `${n} s` })),
  // Past the dial times are literal, so these are true minutes and hours.
  ...[1, 2, 4, 8, 16, 32].map((n) => ({ seconds: 60 * n, label: `${n} min` })),
  ...[1, 2, 4, 8, 16].map((n) => ({ seconds: 3600 * n, label: `${n} h` })),
];

/** An axis that holds all `times` with room around them, at least `stops` long. */
export function axis(times: number[], top: number, bottom: number, stops = 12): Axis {
  let low = Math.min(...times) / 2 ** 0.3;
  let high = Math.max(...times) * 2 ** 1.4;
  const short = stops - Math.log2(high / low);
  if (short > 0) {
    low /= 2 ** (short * 0.35);
    high *= 2 ** (short * 0.65);
  }
  const pixels = (top - bottom) / Math.log2(high / low);
  const place = (seconds: number) => bottom + Math.log2(seconds / low) * pixels;
  const at = (height: number) => low * 2 ** ((height - bottom) / pixels);
  return Object.assign(place, { at, ends: [low, high] as const });
}

/** Full-stop marks on the axis, thinned until labels are `gap` pixels apart. */
export function ticks(scale: Axis, gap = 22): Tick[] {
  const [low, high] = scale.ends;
  const shown = MARKS.filter((mark) => mark.seconds >= low && mark.seconds <= high);
  const drawn: Tick[] = [];
  for (const mark of shown) {
    const last = drawn.at(-1);
    if (!last || Math.abs(scale(last.seconds) - scale(mark.seconds)) >= gap) drawn.push(mark);
  }
  return drawn;
}

/** Third-stop rungs between, as plain positions in seconds. */
export function thirds(scale: Axis): number[] {
  const [low, high] = scale.ends;
  const first = Math.ceil(Math.log2(low) * 3);
  const last = Math.floor(Math.log2(high) * 3);
  return Array.from({ length: last - first + 1 }, (_, place) => 2 ** ((first + place) / 3));
}
