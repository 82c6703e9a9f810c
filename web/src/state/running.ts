import type { Schemas } from "../api/client";
import { askExposure, type Exposure } from "../questions/bench";
import type { ArmQuestion } from "../questions/checklist";
import { askTimingError, letGo, press } from "../questions/run";
import { say } from "../ui/say";
import { nowMs } from "../ui/worldClock";
import { runWords } from "../words/run";
import { clockText, timeText } from "../words/times";
import { ARMED, type Armed, armedKept, type Plan, type Queue, type Run } from "./armed";
import * as clock from "./clock";
import { noteOpened } from "./dryRuns";
import { keptLooks, longerBy, timingErrorOf } from "./exposureEnd";
import { addFrame, busyUntil, changeFrame, type Frame, frameNow, isAnothers, nothingRuns, openFrame } from "./frames";
import { habits } from "./habits";
import { follow, followed, lightWatch, looksOf } from "./lightWatch";
import { fromEarlier, lightAtOpening } from "./runLight";
import { isPractice } from "./session";
import { deviceOf, type Failure } from "./trigger";

type FrameEvent = Frame["events"][number];

export function useArmed(): Armed | null {
  return armedKept.useOne(ARMED);
}

function read(): Armed | null {
  return armedKept.get(ARMED);
}

function write(next: Armed): void {
  void armedKept.set(ARMED, next);
}

/** Take what stands on the bench, question and answer, to Run. */
export function arm(armed: Pick<Armed, "plan" | "question" | "list">): void {
  write({ ...armed, finished: null, queue: null, after: null, busyUntil: null, made: nowMs() });
}

/** A run before its shutter has opened: steady light, a frame, by hand, whatever is not said otherwise. */
export function unopened(run: Partial<Run> & Pick<Run, "metered_seconds">): Run {
  return {
    film: null,
    stops_per_minute: null,
    rate_sd: null,
    delay_seconds: 0,
    moved_stops: null,
    looks: [],
    rereads: [],
    bias_stops: 0,
    device: "hand",
    speed: 1,
    purpose: "frame",
    server_clock: null,
    uncertain_seconds: BY_HAND,
    watched: true,
    busy_until: null,
    expected_sd: null,
    correction_stops: 0,
    correction_for: null,
    purpose_stops: 0,
    ...run,
  };
}

/**
 * Time a frame that nobody worked out: it counts down from `seconds`, or up until somebody closes it (null), and goes
 * into the log like any other.
 */
export function justTime(given: number | null, dialLimit: number): void {
  const seconds = given ?? UNTIL_CLOSED;
  // Nobody said what the camera was set to or what was on it.
  const settings = { aperture: "", iso: "" };
  const plan: Plan = {
    reading: { step: "third" },
    settings,
    stack: [],
    conditions: null,
    scale: "exact",
    dial_limit: dialLimit,
    answer: { seconds, set_seconds: seconds, base_seconds: seconds, sure_within_stops: 0, dial_mark: null, steps: [] },
    run: unopened({ metered_seconds: seconds, purpose: given === null ? "stopwatch" : "timer" }),
  };
  arm({ plan, question: null, list: null });
}

/** The list by hand for a frame that was only timed, from what is known of the camera. */
export function listFor({ plan, list }: Armed, gear: Pick<ArmQuestion, "body" | "release">): void {
  if (list) return;
  const nothing = { glass: [], releases: 1, upright: false, burst: 0, open_since_seconds: 0 };
  change({ list: { seconds: plan.answer.set_seconds, bulb: true, ...gear, ...nothing } });
}

/** What stands for a time that is not known before it is over [s]. */
const UNTIL_CLOSED = 1;

export function change(part: Partial<Armed>): void {
  const armed = read();
  if (armed) write({ ...armed, ...part });
}

export function rearm(): void {
  const armed = read();
  if (!armed) return;
  if (armed.after) write({ ...armed, ...armed.after, finished: null, after: null });
  else write({ ...armed, finished: null });
}

/** Leave the frame for a new one with the same gear. */
export function disarm(): void {
  void armedKept.remove(ARMED);
}

/** Whether another opening of the shutter comes after this one. */
export function hasNext(queue: Queue): boolean {
  return queue.burst !== true && queue.at + 1 < queue.frames.length;
}

/** The plan of the frame a queue is at. */
export function queued(armed: Armed): Plan {
  const next = armed.queue?.frames[armed.queue.at];
  if (!next || armed.queue?.way === "lucky") return armed.plan;
  const { plan } = armed;
  return {
    ...plan,
    answer: { ...plan.answer, seconds: next.seconds, set_seconds: next.seconds, dial_mark: next.mark },
    run: { ...plan.run, bias_stops: plan.run.bias_stops + next.stops, purpose: "series" },
  };
}

/** The sum of the same frame at another ISO: a rehearsal is exposed as its own sum says, whatever time was decided. */
export function rehearsalOf({ question }: Armed, iso: string): Schemas["ExposureInput"] | null {
  return question && { ...question, chosen_seconds: null, settings: { ...question.settings, iso } };
}

/** The same frame at another ISO with the glass on: it comes back to this one afterwards. The time is the one shown. */
export function rehearse(iso: string, answered: Exposure): void {
  const armed = read();
  const question = armed && rehearsalOf(armed, iso);
  if (!question) return;
  const { plan, list } = armed;
  const rehearsal: Plan = {
    ...plan,
    settings: { ...plan.settings, iso },
    answer: answerOf(answered),
    run: { ...plan.run, metered_seconds: answered.metered_seconds, bias_stops: 0, purpose: "rehearsal" },
  };
  const seconds = answered.set_seconds;
  write({
    ...armed,
    plan: rehearsal,
    question,
    list: list && { ...list, seconds, bulb: answered.bulb, iso },
    finished: null,
    after: { plan, question: armed.question, list },
  });
}

/**
 * A short frame first, to see: at the dial's end, with what that leaves of the light as its own step. How it comes out
 * is scaled up to the frame itself.
 */
export async function tryFirst(seconds: number): Promise<void> {
  const armed = read();
  if (!armed?.question) return;
  const question = { ...armed.question, chosen_seconds: seconds };
  const answered = await askExposure(question);
  const now = read();
  if (!now || !stillStands(armed)) return;
  const { plan, list } = now;
  write({
    ...now,
    plan: {
      ...plan,
      answer: answerOf(answered),
      run: { ...plan.run, bias_stops: answered.residue_stops, purpose: "trial" },
    },
    question,
    list: list && { ...list, seconds: answered.set_seconds, bulb: answered.bulb },
    finished: null,
    queue: null,
    after: { plan, question: now.question, list },
  });
}

/** More than one frame of what was armed when they were asked for. */
export function takeSeries(armed: Armed, queue: Queue): void {
  if (!stillStands(armed)) return;
  const { list } = armed;
  change({ queue, list: list && { ...list, burst: queue.burst === true ? queue.frames.length : 0 } });
}

/** Whether an answer that was waited for still finds the plan it was asked for, no shutter open and no press on its way. */
function stillStands({ plan, finished }: Armed): boolean {
  const now = read();
  if (opening !== null || openFrame() !== undefined || finished !== now?.finished) return false;
  return JSON.stringify(plan) === JSON.stringify(now.plan);
}

/** A dark frame: cap on, same length as the frame that has just ended. */
export function darkFrame(frame: Frame): void {
  const armed = read();
  const seconds = frame.actual_seconds;
  if (!armed || seconds === null) return;
  const { plan, question, list } = armed.after ?? armed;
  write({
    ...armed,
    plan: {
      ...plan,
      answer: { ...plan.answer, seconds, set_seconds: seconds, dial_mark: null, steps: [] },
      run: {
        ...plan.run,
        metered_seconds: seconds,
        stops_per_minute: null,
        moved_stops: null,
        rereads: [],
        looks: [],
        purpose: "dark",
      },
    },
    question,
    list: list && { ...list, seconds, glass: [] },
    finished: null,
    queue: null,
    after: { plan, question, list },
  });
}

export function answerOf(answered: Exposure): Plan["answer"] {
  const { set_seconds, base_seconds, sure_within_stops, dial_mark, steps } = answered;
  // A time that was decided is the plan, whatever would have been right.
  const seconds = steps.some((step) => step.kind === "chosen") ? set_seconds : answered.seconds;
  return { seconds, set_seconds, base_seconds, sure_within_stops, dial_mark, steps };
}

/**
 * Open the shutter: a press by hand at `at`, or a device that says when it really opened or why it did not. It is in this
 * browser before it is shown, and goes to the account at once.
 */
export function open(at: Date): Promise<Failure | null> {
  // A second press while it opens is the same press: two would be two frames.
  opening ??= byItself(() => openNow(at)).finally(() => (opening = null));
  return opening;
}

/** One page of this browser after the other, where it knows of locks: two presses on two pages are not two frames. */
async function byItself<Result>(work: () => Promise<Result>): Promise<Result> {
  const { locks } = navigator as { locks?: LockManager | null };
  return locks ? locks.request("jackstaff opening", work) : work();
}

let opening: Promise<Failure | null> | null = null;

async function openNow(at: Date): Promise<Failure | null> {
  const armed = read();
  if (!armed || !(await nothingRuns())) return null;
  // The simulated camera of a dry run is as dead as a real one while it reduces noise.
  const busy = isPractice() ? (busyUntil() - at.getTime()) / 1000 : 0;
  if (busy > 0) return { code: "busy", text: runWords.busy(clockText(Math.ceil(busy))), line: "camera" };
  const plan = queued(armed);
  const { device, closes } = habits();
  const { kind, speed, delay } = isPractice() ? BY_OWN_HAND : device;
  if (kind === "hand") {
    const opens = new Date(at.getTime() + delay * 1000);
    await opened(plan, opens, { device: "hand", speed: 1, uncertain_seconds: BY_HAND, closes });
    return null;
  }
  try {
    const pressed = await press(deviceOf(device), at, plan.answer.dial_mark === null);
    if (pressed.at == null) return pressed.failure ?? null;
    const how = { device: "simulated", speed, uncertain_seconds: BY_DEVICE, closes: "mark" } as const;
    await opened(plan, new Date(pressed.at), how);
    return null;
  } catch (error) {
    return {
      code: "unreachable",
      text: error instanceof Error && error.message ? error.message : null,
      line: "remote",
    };
  }
}

/** In a dry run a hand opens the simulated camera, and the world's clock is as fast as it is. */
const BY_OWN_HAND = { kind: "hand", speed: 1, delay: 0 } as const;
/** How well a press is known [s]. */
const BY_HAND = 0.2;
const BY_DEVICE = 0.05;

type Manner = Pick<Run, "device" | "speed" | "uncertain_seconds" | "closes">;

async function opened(plan: Plan, at: Date, how: Manner): Promise<void> {
  const id = crypto.randomUUID();
  clock.opened(id);
  const light = lightAtOpening(plan, read()?.made ?? at.getTime(), at.getTime());
  const frame: Frame = {
    ...plan,
    id,
    state: "open",
    opened_at: at.toISOString(),
    closed_at: null,
    closed_by: null,
    note: "",
    run: { ...plan.run, ...light, ...how, watched: true },
    events: [event("opened", at)],
    actual_seconds: null,
    error: null,
    pictured: false,
  };
  // Whoever comes next finds the frame and the sign that it was watched, however soon this page goes.
  await Promise.all([noteOpened(id), clock.signOfLife(frame)]);
  await addFrame(frame);
  if (light.looks.length > 0) follow(id, at.getTime(), how.speed);
  void clock.serverClockAt(frame).then((then) => then && noteServerClock(frame, then));
}

/** The server's own count at the opening, once it is known; one that was put right while it was asked is so much later. */
export async function noteServerClock({ id, opened_at }: Frame, then: NonNullable<Run["server_clock"]>): Promise<void> {
  await changeFrame(id, (now) => {
    if (now.state !== "open" || !now.run || now.run.server_clock) return undefined;
    const later = (Date.parse(now.opened_at) - Date.parse(opened_at)) / 1000;
    return { ...now, run: { ...now.run, server_clock: { ...then, seconds: then.seconds + later } } };
  });
}

/** Something happened to the frame that runs; it is left as it is where it has ended meanwhile. */
async function happened(id: string, what: FrameEvent, how: (run: Run, frame: Frame) => Partial<Frame>): Promise<void> {
  await changeFrame(id, (frame) => {
    if (frame.state !== "open" || !frame.run) return undefined;
    return { ...frame, ...how(frame.run, frame), events: [...frame.events, what] };
  });
}

/** It really opened `seconds` before the clock says. */
export async function openedEarlier(frame: Frame, seconds: number): Promise<void> {
  await happened(frame.id, event("shifted", clock.runNow(frame), -seconds), (run, now) => ({
    opened_at: new Date(Date.parse(now.opened_at) - seconds * 1000).toISOString(),
    run: { ...run, ...fromEarlier(run, seconds) },
  }));
}

/** It opened `seconds` before now, whatever was counted. */
export async function openedAgo(frame: Frame, seconds: number): Promise<void> {
  const pressed = performance.now();
  await clock.watch(frame);
  const since = (performance.now() - pressed) / 1000;
  await openedEarlier(frame, seconds + since - clock.openSeconds(frameNow(frame.id) ?? frame));
}

/** A reading on the way: stops against the one at metering. */
export async function reread(frame: Frame, stops: number): Promise<void> {
  const at_seconds = clock.cameraSeconds(frame);
  await happened(frame.id, event("reread", clock.runNow(frame), stops), (run) => ({
    run: { ...run, rereads: [...run.rereads, { at_seconds, stops }] },
  }));
}

/** Let it run longer (+) or shorter (−) by stops of light. */
export async function extend(frame: Frame, stops: number): Promise<void> {
  const kind = stops > 0 ? "extended" : "cut";
  await happened(frame.id, event(kind, clock.runNow(frame), stops), (run) => ({
    // Thirds on top of whatever a decided time lets in already.
    run: { ...run, bias_stops: Number((run.bias_stops + stops).toFixed(6)) },
  }));
}

/** Nobody watched: this is how long it has really been, or how well that is known. */
export async function correct(frame: Frame, realSeconds: number, uncertain: number): Promise<void> {
  clock.corrected(frame, realSeconds);
  await happened(frame.id, event("corrected", clock.runNow(frame), realSeconds), (run) => ({
    run: { ...run, watched: false, uncertain_seconds: uncertain },
  }));
}

type How = "hand" | "mark" | "aborted";

/**
 * The shutter closed, or the frame was given up; what that did to it is asked of the core. `aimed` is the time that the
 * light asked for in the end [s]. An end is written once: whichever page comes second leaves it as it is.
 */
export async function end(
  { id }: Frame,
  how: How,
  openFor: number,
  aimed: number | null,
  busy: string | null = null,
): Promise<void> {
  let ended: Frame | null = null;
  await changeFrame(id, (frame) => {
    if (frame.state !== "open") return undefined;
    const speed = frame.run?.speed ?? 1;
    const at = new Date(Date.parse(frame.opened_at) + (openFor / speed) * 1000);
    const aims = aimed !== null && how !== "aborted" ? [event("aimed", at, aimed)] : [];
    ended = {
      ...frame,
      state: how === "aborted" ? "aborted" : "closed",
      closed_at: at.toISOString(),
      closed_by: how === "aborted" ? null : how,
      events: [...frame.events, ...aims, event(how === "aborted" ? "aborted" : "closed", at)],
      actual_seconds: openFor,
      error: null,
      // What was counted up to is the time it was meant to have.
      ...(frame.run?.purpose === "stopwatch" && {
        answer: { ...frame.answer, seconds: openFor, set_seconds: openFor, base_seconds: openFor },
      }),
      ...(frame.run && {
        run: {
          ...frame.run,
          ...(frame.run.purpose === "stopwatch" && { metered_seconds: openFor }),
          // What was watched stays with the frame; the watch itself is over.
          looks: looksOf(lightWatch(), frame) ?? keptLooks(frame),
          busy_until: busy ?? busyAfter(how, at, openFor / speed),
        },
      }),
    };
    return ended;
  });
  // What is set up now is set up by whoever is here now.
  const { queue = null, after = null } = isAnothers(id) ? {} : (read() ?? {});
  followed(id, after !== null || (queue !== null && (queue.way === "lucky" || hasNext(queue))));
  const mine = ended as Frame | null;
  if (!mine) return;
  showEnded(mine);
  if (mine.run?.purpose === "stopwatch") return;
  const error = await askTimingError(timingErrorOf(mine, aimed ?? mine.answer.seconds, openFor));
  if (!error) return;
  // It may have been taken back while the core thought.
  await changeFrame(id, (frame) => (frame.closed_at === mine.closed_at ? { ...frame, error } : undefined));
}

/** A camera that reduces noise is busy for as long again. */
function busyAfter(how: How, at: Date, openFor: number): string | null {
  const noise = read()?.list?.body?.noise_reduction;
  const reduces = noise === "on" || noise === "fixed";
  return reduces && how !== "aborted" && openFor >= 1 ? new Date(at.getTime() + openFor * 1000).toISOString() : null;
}

/** Show a frame's end here, whichever device armed it. */
export function showEnded(frame: Frame): void {
  if (isAnothers(frame.id)) {
    // The page that ended it hears of it, too.
    if (told === frame.closed_at) return;
    told = frame.closed_at ?? null;
    say({
      text: runWords.anothersClosed(timeText(frame.actual_seconds ?? 0)),
      action: { label: runWords.takeBack, act: () => void takeBack(frame) },
    });
    return;
  }
  const armed = read();
  if (armed) {
    write({ ...armed, finished: frame.id, busyUntil: frame.run?.busy_until ?? null });
    return;
  }
  const { reading, settings, stack, scale, dial_limit, answer: planned, conditions, run } = frame;
  if (!run) return;
  const plan = {
    reading,
    settings,
    stack,
    scale,
    dial_limit,
    answer: planned,
    ...(conditions && { conditions }),
    // What happened on the way is no part of the plan; a time that was decided is.
    run: { ...run, rereads: [], looks: [], bias_stops: Number((run.bias_stops - longerBy(frame)).toFixed(6)) },
  };
  // What it says of the light it says of the opening.
  const made = Date.parse(frame.opened_at);
  write({ plan, question: null, list: null, finished: frame.id, queue: null, after: null, busyUntil: null, made });
}

/** Which end of somebody else's frame was told last. */
let told: string | null = null;

/** The end of a frame that ran, wherever it was ended. */
export function showEndOf(id: string): void {
  const frame = frameNow(id);
  if (frame && frame.state !== "open" && read()?.finished !== id) showEnded(frame);
}

/** Let the device go: when it really closed, and what ended it. */
export async function endByDevice(frame: Frame, aimed: number, openFor: number): Promise<Failure | null> {
  const speed = frame.run?.speed ?? 1;
  const opened_at = Date.parse(frame.opened_at);
  const pressedAt = new Date(opened_at + (openFor / speed) * 1000);
  let closed;
  try {
    closed = await letGo(deviceOf(habits().device), frame.opened_at, aimed / speed, pressedAt);
  } catch {
    // The device was told the time when it opened; what it did does not hang on the server.
    closed = null;
  }
  const at = closed ? ((Date.parse(closed.at) - opened_at) / 1000) * speed : openFor;
  const busy = closed && Date.parse(closed.busy_until) > Date.parse(closed.at) ? closed.busy_until : null;
  await end(frame, "mark", at, aimed, busy);
  return closed?.failure ?? null;
}

/** The close was a slip: the shutter is still open and the clock never stopped. */
export async function takeBack({ id }: Frame): Promise<void> {
  if (read()?.finished === id) change({ finished: null });
  await changeFrame(id, (frame) =>
    frame.state === "open"
      ? undefined
      : {
          ...frame,
          state: "open",
          closed_at: null,
          closed_by: null,
          events: [...frame.events, event("taken_back", clock.runNow(frame))],
          actual_seconds: null,
          error: null,
        },
  );
}

function event(kind: FrameEvent["kind"], at: Date, seconds: number | null = null): FrameEvent {
  return { id: crypto.randomUUID(), at: at.toISOString(), kind, seconds };
}
