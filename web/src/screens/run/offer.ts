import { useStory } from "../../parts/lightwatch/useStory";
import { useExposure } from "../../questions/bench";
import { useTrial } from "../../questions/extras";
import { useAgain } from "../../questions/run";
import { againOf, armAgain, correctedOf } from "../../state/again";
import type { Armed } from "../../state/armed";
import { type Cause, type Frame, onlyTimed } from "../../state/frames";
import { justTime } from "../../state/running";
import { useNow } from "../../ui/useNow";
import { plannedTime, timeText } from "../../words/times";

/** Half a minute of moving light is as fine as a correction is. */
const GRAIN = 30_000;
/** No frame is better for less [stops]. */
const LEAST_STOPS = 0.02;

/** The corrected frame that is offered after a verdict; null while there is none. */
export interface Offer {
  time: string;
  step: string;
  arm: (cause: Cause | null) => void;
}

/** The same correction taken by the aperture, at about the time the frame had. */
interface Opened {
  aperture: string;
  time: string;
  arm: (cause: Cause | null) => void;
}

/** What is offered for a frame that has ended, and what keeps it from being offered. */
export function useOffer(frame: Frame, armed: Armed) {
  const now = Math.floor(useNow(GRAIN) / GRAIN) * GRAIN;
  const lit = useStory(frame);
  const correction = useAgain(lit === undefined ? null : againOf(armed, frame, lit)).answer;
  const question = correction && lit !== undefined ? correctedOf(armed, frame, correction, now, lit) : null;
  const { answer, error, again } = useExposure(question);
  const changed = correction && Math.abs(correction.stops - (frame.run?.correction_stops ?? 0)) > LEAST_STOPS;
  // Of a frame that was only timed nothing is known but its time and how it came out.
  const timed = correction && onlyTimed(frame) ? frame.actual_seconds : null;
  const scaled = useTrial(
    timed == null || timed <= 0
      ? null
      : { trial_seconds: timed, error_stops: frame.review?.error_stops ?? 0, sum_seconds: timed },
  ).answer;
  const whole = scaled ? Math.round(scaled.seconds * 10) / 10 : null;
  const byTime: Offer | null =
    correction && whole !== null && changed
      ? { time: timeText(whole), step: correction.name, arm: () => justTime(whole, armed.plan.dial_limit) }
      : null;
  const offer: Offer | null =
    question && correction && answer && changed
      ? {
          time: plannedTime(answer),
          step: correction.name,
          arm: (cause) => armAgain(armed, question, answer, cause),
        }
      : byTime;
  // Which aperture makes the time right that the frame had; a trial was short on purpose.
  const seconds = question && offer && frame.run?.purpose !== "trial" ? frame.actual_seconds : null;
  const fits = useExposure(question && seconds !== null ? { ...question, chosen_seconds: seconds } : null).answer
    ?.fits_at;
  const aperture = fits && within(armed, fits.aperture) ? fits.aperture : null;
  const other =
    question && aperture !== null
      ? { ...question, chosen_seconds: null, settings: { ...question.settings, aperture } }
      : null;
  const byAperture = useExposure(other).answer;
  const opened: Opened | null =
    other && byAperture && aperture !== null
      ? {
          aperture,
          time: plannedTime(byAperture),
          arm: (cause) => armAgain(armed, other, byAperture, cause, aperture),
        }
      : null;
  return { offer, opened, error, again, lit };
}

/** Whether the lens on the camera has this aperture, as far as it is known. */
function within({ list }: Armed, mark: string): boolean {
  const lens = list?.lens;
  const [widest, smallest] = [lens?.["aperture_widest"], lens?.["aperture_smallest"]];
  const f = Number(mark);
  return (
    list?.body?.["fixed_aperture"] == null &&
    f >= (typeof widest === "number" ? widest : 0) &&
    f <= (typeof smallest === "number" ? smallest : Infinity)
  );
}
