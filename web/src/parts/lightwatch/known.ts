import type { Step, Weight } from "../../questions/lightWatch";
import { words } from "../../words";
import { watchWords as say } from "../../words/watch";

/** What the light is now against the metering [stops], with its sd, and what says so. */
export interface Known {
  stops: number;
  sd: number;
  weights: Weight[];
  steps: Step[];
  /** What the instants of the steps are counted from. */
  from: "metering" | "opening";
}

export function lightText(known: Known | null): string {
  if (!known) return say.unmetered;
  const sure = sureText(known.sd);
  // A tenth is as fine as a phone sees.
  if (Math.abs(known.stops) < 0.05) return say.same(sure);
  return say.since(words.staff.stops(Math.abs(known.stops).toFixed(1)), known.stops > 0, sure);
}

export function sureText(sd: number): string {
  return words.staff.stops(Math.max(0.1, 2 * sd).toFixed(1));
}
