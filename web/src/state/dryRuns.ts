import * as v from "valibot";
import type { Begun, ReplayQuestion } from "../questions/dryRun";
import type { World } from "../ui/worldClock";
import { isPractice } from "./session";
import { drawer } from "./store";

/** A dry run that goes on. It lies under its own owner, with the frames, the kit and the outing that belong to it. */
export interface DryRun {
  begun: Begun;
  /** Without hints and without a forecast. */
  expert: boolean;
  clock: World;
  /** The last sign of life on the wall [ms]: a dry run that nobody looks at stands still. */
  beat: number;
  /** Which picture the camera is set up for. */
  framing: number;
  looked: NonNullable<ReplayQuestion["looked"]>;
  /** Lines of the list that were ticked for the frame about to open. */
  prepared: string[];
  /** By a frame's id: which picture it is of, and what was done before it opened. */
  opened: Record<string, { framing: number; prepared: string[] }>;
}

const CLOCK = v.object({
  world: v.number(),
  wall: v.number(),
  pace: v.pipe(v.number(), v.minValue(0)),
  due: v.nullish(v.number()),
});
const RUN = v.looseObject({
  begun: v.looseObject({ scenario: v.looseObject({ framings: v.array(v.looseObject({})) }), leave_at: v.string() }),
  expert: v.boolean(),
  clock: CLOCK,
  beat: v.number(),
  framing: v.number(),
  looked: v.array(v.looseObject({})),
  prepared: v.array(v.string()),
  opened: v.record(v.string(), v.looseObject({ framing: v.number(), prepared: v.array(v.string()) })),
});

export const ONE = "dry-run";

export const dryRun = drawer<DryRun>({
  name: "dry_run",
  version: 1,
  check: (content) => (v.is(RUN, content) ? (content as unknown as DryRun) : null),
});

/** Lines of the list that are ticked for the frame about to open. */
export function ticked(codes: string[]): void {
  if (isPractice()) void dryRun.change(ONE, (run) => (run ? { ...run, prepared: codes } : undefined));
}

/** A frame has opened: of this picture, with this done before it. */
export async function noteOpened(id: string): Promise<void> {
  if (!isPractice()) return;
  await dryRun.change(ONE, (run) => {
    if (!run) return undefined;
    const { framing, prepared } = run;
    return { ...run, opened: { ...run.opened, [id]: { framing, prepared } }, prepared: [] };
  });
}

/** A dry run that is over: all that its replay is worked out from. It belongs to whoever played it. */
export interface Played {
  name: string;
  ended_at: string;
  expert: boolean;
  question: ReplayQuestion;
}

const PLAYED = v.looseObject({
  name: v.string(),
  ended_at: v.string(),
  expert: v.boolean(),
  question: v.looseObject({ scenario: v.looseObject({}) }),
});

export const played = drawer<Played>({
  name: "dry_run_played",
  version: 1,
  check: (content) => (v.is(PLAYED, content) ? (content as unknown as Played) : null),
  sort: ({ ended_at }) => ended_at,
});
