import * as v from "valibot";
import type { Schemas } from "../api/client";
import type { ArmQuestion } from "../questions/checklist";
import type { Frame } from "./frames";
import { drawer } from "./store";

export type Run = NonNullable<Frame["run"]>;
export type Plan = Pick<Frame, "reading" | "settings" | "stack" | "scale" | "dial_limit" | "answer" | "conditions"> & {
  run: Run;
};

/** More than one frame: the queue, and how far it has come. */
export interface Queue {
  way: "repeat" | "bracket" | "split" | "lucky";
  frames: Schemas["SeriesFrameAnswer"][];
  at: number;
  /** The camera's own bracketing takes them all at one press. */
  burst?: boolean;
  kept: number;
  dropped: number;
}

/** What is armed: the frame as it will be, before it has opened. */
export interface Armed {
  plan: Plan;
  /** The question behind it, for the same frame at another ISO; null for a frame that another device armed. */
  question: Schemas["ExposureInput"] | null;
  list: ArmQuestion | null;
  /** The last finished frame of this plan, so that its result stays on screen. */
  finished: string | null;
  queue: Queue | null;
  /** What a rehearsal or a dark frame comes back to. */
  after: Pick<Armed, "plan" | "question" | "list"> | null;
  /** Until when the camera reduces noise from the last frame. */
  busyUntil: string | null;
  /** When this plan was made: what moves goes on moving until the shutter opens [ms]. */
  made?: number;
}

const SHAPE = v.looseObject({
  plan: v.looseObject({
    settings: v.looseObject({ aperture: v.string(), iso: v.string() }),
    stack: v.array(v.looseObject({ name: v.string() })),
    dial_limit: v.number(),
    answer: v.looseObject({ seconds: v.number(), set_seconds: v.number(), steps: v.array(v.looseObject({})) }),
    run: v.looseObject({ metered_seconds: v.number(), purpose: v.string() }),
  }),
  question: v.nullable(v.looseObject({})),
  list: v.nullable(v.looseObject({})),
  finished: v.nullable(v.string()),
  queue: v.nullable(v.looseObject({ frames: v.array(v.looseObject({})), at: v.number() })),
  after: v.nullable(v.looseObject({})),
  busyUntil: v.nullable(v.string()),
});

export const ARMED = "armed";
export const armedKept = drawer<Armed>({
  name: ARMED,
  version: 1,
  check: (content) => (v.is(SHAPE, content) ? (content as unknown as Armed) : null),
});
