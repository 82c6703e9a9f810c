import { useExposure } from "../../questions/bench";
import { useAgain } from "../../questions/run";
import { againOf, armAgain, correctedOf } from "../../state/again";
import type { Cause, Frame } from "../../state/frames";
import type { Armed } from "../../state/running";
import { useNow } from "../../ui/useNow";
import { runWords } from "../../words/run";
import { exactTime, markText, signedStops } from "../../words/times";

const say = runWords.correct;
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

/** What is offered for a frame that has ended, and what keeps it from being offered. */
export function useOffer(frame: Frame, armed: Armed) {
  const now = Math.floor(useNow(GRAIN) / GRAIN) * GRAIN;
  const correction = useAgain(againOf(armed, frame)).answer;
  const question = correction ? correctedOf(armed, frame, correction, now) : null;
  const { answer, error, again } = useExposure(question);
  const changed = correction && Math.abs(correction.stops - (frame.run?.correction_stops ?? 0)) > LEAST_STOPS;
  const offer: Offer | null =
    question && correction && answer && changed
      ? {
          time: answer.dial_mark === null ? exactTime(answer.set_seconds) : markText(answer.dial_mark),
          step: say.step(correction.name, signedStops(correction.stops)),
          arm: (cause) => armAgain(armed, question, answer, cause),
        }
      : null;
  return { offer, error, again };
}
