import type { Ladders } from "../../questions/bench";

export type Dial = "shutter" | "aperture" | "iso";
type Marks = Ladders[Dial];

/** The next mark in the direction; a literal value steps to the nearest mark that way. */
export function stepped(marks: Marks, value: string, by: 1 | -1): string | undefined {
  const bare = value.replace(/\s*s$/, "");
  const at = marks.findIndex((mark) => mark.label === bare);
  if (at >= 0) return marks[at + by]?.label;
  const number = spelled(bare);
  const beyond = by > 0 ? marks.find((mark) => mark.exact > number) : marks.findLast((mark) => mark.exact < number);
  return beyond?.label;
}

/** The marks around a value, `most` each side and itself where it is one. */
export function around(marks: Marks, value: string, most: number): string[] {
  const bare = value.replace(/\s*s$/, "");
  const at = marks.findIndex((mark) => mark.label === bare);
  const middle = at >= 0 ? at : marks.findIndex((mark) => mark.exact > spelled(bare));
  const from = middle < 0 ? marks.length : middle;
  return marks.slice(Math.max(0, from - most), from + most + (at >= 0 ? 1 : 0)).map((mark) => mark.label);
}

function spelled(text: string): number {
  const [top = "0", bottom] = text.split("/");
  return bottom === undefined ? Number(top) : Number(top) / Number(bottom);
}

/** Whole minutes one steps along, coarser the longer. */
const MINUTES = [1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 12, 15, 20, 30, 45, 60, 90, 120, 180, 240];
const SAME_TIME = 1.001;

/** The next time one would use: the dial's marks, then minutes. */
export function nextTime(ladders: Ladders, seconds: number, by: 1 | -1): number | undefined {
  const dial = ladders.shutter.map((mark) => mark.exact);
  const all = [...dial, ...MINUTES.map((minutes) => minutes * 60).filter((time) => time > (dial.at(-1) ?? 0))];
  return by > 0 ? all.find((time) => time > seconds * SAME_TIME) : all.findLast((time) => time < seconds / SAME_TIME);
}

/** A time dragged to, as the dial can set it or, past its end, a timer or a person counts it. */
export function snapped(ladders: Ladders | undefined, seconds: number, timer: number | null): number {
  const dial = ladders?.shutter.map((mark) => mark.exact) ?? [];
  const last = dial.at(-1);
  if (!ladders || last === undefined) return seconds;
  if (seconds > last) {
    const counted = ladders.counted.find(({ below_seconds }) => below_seconds == null || seconds < below_seconds);
    const grain = timer ?? counted?.grain_seconds ?? 1;
    return Math.max(last, Math.round(seconds / grain) * grain);
  }
  const apart = (time: number) => Math.abs(Math.log(time / seconds));
  return dial.toSorted((a, b) => apart(a) - apart(b))[0] ?? seconds;
}
