import type { Bench } from "../../state/bench";
import { words } from "../../words";
import { thirdsText } from "../../words/times";

const say = words.purpose;

/** How the frame is meant otherwise than the meter says, in a line. */
export function purposeText({ purposeThirds, correction, monochrome }: Bench): string {
  const meant = [
    purposeThirds !== 0 && say.meant(thirdsText(Math.abs(purposeThirds) / 3), purposeThirds > 0),
    correction?.name,
    monochrome && say.mono,
  ].filter(Boolean);
  return meant.join(", ") || say.asMetered;
}
