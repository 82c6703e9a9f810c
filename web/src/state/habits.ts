import * as v from "valibot";
import { drawer } from "./store";

/** Small habits of whoever is here, in this browser. */
const SHAPE = v.object({
  /** How long the countdown before opening is [s]. */
  lead: v.fallback(v.number(), 2),
  /** What one's timer counts in past the dial [s]; null is as people say it. */
  timerSeconds: v.fallback(v.nullable(v.number()), null),
  /** Whether one was asked which filters one owns. */
  bagAsked: v.fallback(v.boolean(), false),
  /** Whether single letters act as keys. */
  letterKeys: v.fallback(v.boolean(), true),
  /** Who closes a bulb exposure. */
  closes: v.fallback(v.picklist(["hand", "mark"]), "hand"),
  /** What opens and closes the shutter: a hand on a remote, or the simulated trigger that ships. */
  device: v.fallback(
    v.object({
      kind: v.picklist(["hand", "simulated"]),
      /** Practice may run faster; 1 is real time. */
      speed: v.number(),
      /** From press to shutter [s], as the five-second test found it for a hand's remote. */
      delay: v.number(),
      tested: v.boolean(),
      fault: v.picklist(["none", "no_answer", "not_bulb", "drive", "electronic_shutter", "battery"]),
    }),
    { kind: "hand", speed: 1, delay: 0, tested: false, fault: "none" },
  ),
  /** Which release is used, where there are several; null is not chosen yet. */
  releaseId: v.fallback(v.nullable(v.string()), null),
  /** What was left in the battery (0 to 1) when somebody looked, and when that was. */
  battery: v.fallback(v.nullable(v.object({ share: v.number(), at: v.string() })), null),
  /** Of how many hours a clock is; null is as the browser's language has it. */
  hours: v.fallback(v.nullable(v.picklist([12, 24])), null),
  /** Whether the clock of a running frame is spoken. */
  speaks: v.fallback(v.boolean(), false),
  /** When somebody last said that the end bell can be heard. */
  heard: v.fallback(v.nullable(v.string()), null),
  /** What a phone's camera is matched with this person's camera by [stops]; null is not matched. */
  phoneMatch: v.fallback(v.nullable(v.number()), null),
  /** Lines of the checklist that sit by now. */
  folded: v.fallback(v.array(v.string()), []),
  /** The frame whose finding was left aside on the bench. */
  findingLeft: v.fallback(v.nullable(v.string()), null),
  /** The outing on which the words on the sun have been said. */
  sunSaid: v.fallback(v.string(), ""),
  /** Leave-by instants that somebody has answered. */
  left: v.fallback(v.array(v.string()), []),
  /** The outing that is looked at. */
  outing: v.fallback(v.nullable(v.string()), null),
});

export type Habits = v.InferOutput<typeof SHAPE>;
export type Device = Habits["device"];

const FIRST: Habits = v.parse(SHAPE, {});
const ONE = "habits";

const drawn = drawer<Habits>({
  name: "habits",
  version: 1,
  check: (content) => {
    const read = v.safeParse(SHAPE, content);
    return read.success ? read.output : null;
  },
});

export function habits(): Habits {
  return drawn.get(ONE) ?? FIRST;
}

export function useHabits(): Habits {
  return drawn.useOne(ONE) ?? FIRST;
}

export function remember(part: Partial<Habits>): void {
  void drawn.set(ONE, { ...habits(), ...part });
}
