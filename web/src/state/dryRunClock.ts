import { instantOf, setWorld } from "../ui/worldClock";
import { type DryRun, dryRun, ONE } from "./dryRuns";
import { isPractice } from "./session";
import { store } from "./store";

/** The dry run that goes on, and its clock, which every page follows from its start. */

/** A page that has shown no life for so long [ms] was closed, and the clock stood still. */
const AWAY_MS = 20_000;

export function useDryRun(): DryRun | null {
  return dryRun.useOne(ONE);
}

export function now(): DryRun | null {
  return isPractice() ? dryRun.get(ONE) : null;
}

/** The world's clock is the one that is kept with the dry run, on every page. */
export function followWorld(): void {
  const follow = () => setWorld(now()?.clock ?? null);
  store.subscribe(follow);
  const run = now();
  if (run && Date.now() - run.beat > AWAY_MS) {
    const { clock, beat } = run;
    const world = instantOf(clock, Math.max(beat, clock.wall));
    change({ clock: { ...clock, world, wall: Date.now(), pace: 0 }, beat: Date.now() });
  }
  follow();
}

export function change(part: Partial<DryRun>): void {
  void dryRun.change(ONE, (run) => (run ? { ...run, ...part } : undefined));
}
