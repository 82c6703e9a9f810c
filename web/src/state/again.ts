import type { Exposure } from "../questions/bench";
import type { Schemas } from "../api/client";
import type { Cause, Frame } from "./frames";
import type { Armed } from "./armed";
import { glassOf, itemsOf } from "./bag";
import { standAgain } from "./bench";
import { benchOf } from "./fromFrame";
import { itemsKept } from "./kit";
import { answerOf, change } from "./running";
import { nowMs } from "../ui/worldClock";

/** What a phone saw of a frame's light. */
export type Lit = Schemas["LightStoryAnswer"];

/** What a reviewed frame teaches the next one; null while nobody has said how it came out, and for film, whose law bends it. */
export function againOf(armed: Armed, frame: Frame, watched: Lit | null = null): Schemas["AgainInput"] | null {
  const trial = frame.run?.purpose === "trial";
  if ((armed.after && !trial) || armed.queue) return null;
  // A trial's short time is no part of the frame it was for.
  return taughtBy(frame, trial ? 0 : armed.plan.run.bias_stops, watched);
}

/** The same for a frame whose time is worked out anew, but for `decided` stops that will be decided again. */
export function taughtBy(frame: Frame, decided = 0, watched: Lit | null = null): Schemas["AgainInput"] | null {
  const error_stops = frame.review?.error_stops;
  if (error_stops == null || frame.run?.film != null || frame.state !== "closed") return null;
  return {
    error_stops,
    // What the sky did beside the clock, where a phone watched it.
    late_stops: watched?.came_stops ?? frame.error?.stops ?? 0,
    // A frame from a file or by hand was neither decided on the way nor corrected, as far as is known.
    longer_stops: (frame.run?.bias_stops ?? 0) - decided,
    earlier_stops: frame.run?.correction_stops ?? 0,
  };
}

/** The sum of the same frame, corrected, in the light as it has moved on; null for a frame that no sum stands behind. */
export function correctedOf(
  armed: Armed,
  frame: Frame,
  correction: Schemas["CorrectionInput"],
  now: number,
  watched: Lit | null = null,
): Schemas["ExposureInput"] | null {
  const { question } = armed;
  if (!question) return null;
  const taught = correction.stops - (frame.run?.correction_stops ?? 0);
  const decided = frame.run?.purpose === "trial" ? null : question.chosen_seconds;
  return {
    ...question,
    correction,
    // A time that was decided is decided again, as much longer as the frame wanted.
    chosen_seconds: decided == null ? null : decided * 2 ** taught,
    light: lightSince(question.light ?? null, frame, now, watched),
  };
}

/** How the light moves, from what was read while the shutter was open, else as it was known; metered a while ago by now. */
function lightSince(
  known: Schemas["MovingLightInput"] | null,
  frame: Frame,
  now: number,
  watched: Lit | null,
): Schemas["MovingLightInput"] | null {
  const since = Math.max(0, (now - Date.parse(frame.opened_at)) / 1000);
  if (watched) {
    const minutes = frame.closed_at == null ? 0 : Math.max(0, (now - Date.parse(frame.closed_at)) / 60_000);
    const { last_stops, last_sd, stops_per_minute, rate_sd } = watched;
    return {
      stops_per_minute,
      rate_sd,
      delay_seconds: since,
      moved_stops: last_stops + stops_per_minute * minutes,
      moved_sd: Math.hypot(last_sd, rate_sd * minutes),
    };
  }
  const last = frame.run?.rereads.at(-1);
  const unseen = { moved_stops: null, moved_sd: 0 };
  if (last && last.at_seconds > 0)
    return { stops_per_minute: (last.stops / last.at_seconds) * 60, rate_sd: READ_SD, delay_seconds: since, ...unseen };
  if (known?.moved_stops == null) return known && { ...known, ...unseen, delay_seconds: known.delay_seconds + since };
  const moved_stops = known.moved_stops + (known.stops_per_minute * since) / 60;
  const moved_sd = Math.hypot(known.moved_sd, (known.rate_sd * since) / 60);
  return { ...known, delay_seconds: known.delay_seconds + since, moved_stops, moved_sd };
}

/** How well a rate is known that was read while the shutter was open [stops/min]. */
const READ_SD = 0.05;

/** Make the corrected frame ready: the time that was shown is the time that is armed. */
export function armAgain(
  armed: Armed,
  question: Schemas["ExposureInput"],
  answered: Exposure,
  cause: Cause | null,
  aperture: string = armed.plan.settings.aperture,
): void {
  const { plan, list } = armed;
  change({
    plan: {
      ...plan,
      settings: { ...plan.settings, aperture },
      answer: answerOf(answered),
      run: {
        ...plan.run,
        metered_seconds: answered.metered_seconds,
        bias_stops: answered.residue_stops,
        stops_per_minute: question.light?.stops_per_minute ?? null,
        rate_sd: question.light?.rate_sd ?? null,
        delay_seconds: question.light?.delay_seconds ?? 0,
        moved_stops: question.light?.moved_stops ?? null,
        rereads: [],
        looks: [],
        correction_stops: question.correction?.stops ?? 0,
        correction_for: cause,
        purpose: plan.run.purpose === "trial" ? "frame" : plan.run.purpose,
      },
    },
    question,
    list: list && { ...list, seconds: answered.set_seconds, bulb: answered.bulb },
    finished: null,
    queue: null,
    made: nowMs(),
    ...(plan.run.purpose === "trial" && { after: null }),
  });
  const { correction, light, chosen_seconds: decided } = question;
  const bag = itemsOf(itemsKept(), "glass").map(glassOf);
  standAgain({
    ...benchOf({ ...plan, review: null }, bag, null),
    meteredAt: plan.reading.metered_at ?? null,
    correction: correction ? { ...correction, because: cause } : null,
    targetSeconds: decided ?? null,
    shotAperture: aperture,
    seenLight: light
      ? {
          at: new Date(nowMs()).toISOString(),
          moved_stops: light.moved_stops ?? (light.stops_per_minute * light.delay_seconds) / 60,
          moved_sd: light.moved_stops == null ? (light.rate_sd * light.delay_seconds) / 60 : light.moved_sd,
          stops_per_minute: light.stops_per_minute,
          rate_sd: light.rate_sd,
        }
      : null,
  });
}
