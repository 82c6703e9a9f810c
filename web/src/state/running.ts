import { answer, api, Refused, type Schemas } from "../api/client";
import { type Frame, openFrame, put, useWaiting, waitingFrame } from "./frames";
import { browserStore } from "./browserStore";
import { owner } from "./owner";
import * as clock from "./clock";
import { device, type Failure, letGo, press } from "./device";
import type { ArmQuestion } from "./armQuestion";

type Answer = Schemas["ExposureAnswer"];
type Run = NonNullable<Frame["run"]>;
type EventKind = Frame["events"][number]["kind"];
export type Plan = Pick<Frame, "reading" | "settings" | "stack" | "scale" | "dial_limit" | "answer" | "conditions"> & {
  run: Run;
};

/** More than one frame: the queue, and how far it has come. */
export interface Queue {
  way: "repeat" | "bracket" | "split" | "lucky";
  frames: Schemas["SeriesFrameAnswer"][];
  at: number;
  kept: number;
  dropped: number;
}

/** What is armed: the frame as it will be, before it has opened. */
export interface Armed {
  plan: Plan;
  /** The question behind it, for the same frame at another ISO; null for a frame that another device armed. */
  question: Schemas["ExposureAsked"] | null;
  list: ArmQuestion | null;
  /** The last finished frame of this plan, so that its result stays on screen. */
  finished: string | null;
  queue: Queue | null;
  /** What a rehearsal or a dark frame comes back to. */
  after: Pick<Armed, "plan" | "question" | "list"> | null;
  /** Until when the camera reduces noise from the last frame. */
  busyUntil: string | null;
}

const store = browserStore<Armed | null>("jackstaff.armed.2", null);
const { read, write } = store;

export const useArmed = store.use;

/** Take what stands on the bench, question and answer, to Run. */
export function arm(armed: Pick<Armed, "plan" | "question" | "list">): void {
  write({ ...armed, finished: null, queue: null, after: null, busyUntil: null });
}

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
  write(null);
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

/** The same frame at another ISO with the glass on, or with the cap: it comes back to this one afterwards. */
export async function rehearse(iso: string): Promise<void> {
  const armed = read();
  if (!armed?.question) return;
  const question = { ...armed.question, settings: { ...armed.question.settings, iso } };
  const answered = await answer(api.POST("/api/exposure", { body: question }));
  const { plan, list } = armed;
  const rehearsal: Plan = {
    ...plan,
    settings: { ...plan.settings, iso },
    answer: answerOf(answered),
    run: { ...plan.run, metered_seconds: answered.metered_seconds, purpose: "rehearsal" },
  };
  const seconds = answered.set_seconds;
  write({
    plan: rehearsal,
    question,
    list: list && { ...list, seconds, bulb: answered.bulb },
    finished: null,
    queue: armed.queue,
    after: { plan, question: armed.question, list },
    busyUntil: armed.busyUntil,
  });
}

/** A dark frame: cap on, same length as the frame that has just ended. */
export function darkFrame(frame: Frame): void {
  const armed = read();
  const seconds = frame.actual_seconds;
  if (!armed || seconds === null) return;
  const { plan, question, list } = armed.after ?? armed;
  write({
    plan: {
      ...plan,
      answer: { ...plan.answer, seconds, set_seconds: seconds, dial_mark: null, steps: [] },
      run: { ...plan.run, metered_seconds: seconds, stops_per_minute: null, rereads: [], purpose: "dark" },
    },
    question,
    list: list && { ...list, seconds, glass: [] },
    finished: null,
    queue: null,
    after: { plan, question, list },
    busyUntil: armed.busyUntil,
  });
}

export function answerOf(answered: Answer): Plan["answer"] {
  const { seconds, set_seconds, base_seconds, sure_within_stops, dial_mark, steps } = answered;
  return { seconds, set_seconds, base_seconds, sure_within_stops, dial_mark, steps };
}

/** The running frame, wherever it was opened in this browser. */
export function useOpenFrame(): Frame | undefined {
  return useWaiting().find((one) => one.frame.state === "open")?.frame;
}

/**
 * Open the shutter: a press by hand at `at`, or a device that says when it really opened or why it did not. Written to
 * this browser at once, then to the account.
 */
export async function open(at: Date): Promise<Failure | null> {
  const armed = read();
  if (!armed || openFrame()) return null;
  const plan = queued(armed);
  const { kind, speed, delay } = device.read();
  if (kind === "hand") {
    opened(plan, new Date(at.getTime() + delay * 1000), { device: "hand", speed: 1, uncertain_seconds: BY_HAND });
    return null;
  }
  try {
    const pressed = await press(at, plan.answer.dial_mark === null);
    if (pressed.at == null) return pressed.failure ?? null;
    opened(plan, new Date(pressed.at), { device: "simulated", speed, uncertain_seconds: BY_DEVICE });
    return null;
  } catch (error) {
    const text = error instanceof Refused ? error.message : null;
    return { code: "unreachable", text, line: "remote" };
  }
}

/** How well a press is known [s]. */
const BY_HAND = 0.2;
const BY_DEVICE = 0.05;

function opened(plan: Plan, at: Date, how: Pick<Run, "device" | "speed" | "uncertain_seconds">): void {
  const id = crypto.randomUUID();
  clock.opened(id, (Date.now() - at.getTime()) / 1000);
  const frame: Frame = {
    ...plan,
    id,
    state: "open",
    opened_at: at.toISOString(),
    closed_at: null,
    closed_by: null,
    note: "",
    run: { ...plan.run, ...how, watched: true },
    events: [event("opened", at)],
    actual_seconds: null,
    error: null,
    pictured: false,
  };
  keep(frame);
  clock.signOfLife(frame);
  void clock.steadyAt(frame).then((steady) => {
    const now = waitingFrame(id);
    if (steady && now?.run) keep({ ...now, run: { ...now.run, steady } });
  });
}

/** It really opened `seconds` before the clock says. */
export function openedEarlier(frame: Frame, seconds: number): void {
  clock.shifted(frame.id, seconds);
  const steady = frame.run?.steady;
  keep({
    ...frame,
    opened_at: new Date(Date.parse(frame.opened_at) - seconds * 1000).toISOString(),
    ...(frame.run && {
      run: { ...frame.run, ...(steady && { steady: { ...steady, seconds: steady.seconds - seconds } }) },
    }),
    events: [...frame.events, event("shifted", clock.runNow(frame), -seconds)],
  });
}

/** A reading on the way: stops against the one at metering. */
export function reread(frame: Frame, stops: number): void {
  if (!frame.run) return;
  const at = clock.cameraSeconds(frame);
  const rereads = [...frame.run.rereads, { at_seconds: at, stops }];
  keep({
    ...frame,
    run: { ...frame.run, rereads },
    events: [...frame.events, event("reread", clock.runNow(frame), stops)],
  });
}

/** Let it run longer (+) or shorter (−) by stops of light. */
export function extend(frame: Frame, stops: number): void {
  if (!frame.run) return;
  const bias = Math.round((frame.run.bias_stops + stops) * 3) / 3;
  keep({
    ...frame,
    run: { ...frame.run, bias_stops: bias },
    events: [...frame.events, event(stops > 0 ? "extended" : "cut", clock.runNow(frame), stops)],
  });
}

/** Nobody watched: this is how long it has really been, or how well that is known. */
export function correct(frame: Frame, realSeconds: number, uncertain: number): void {
  if (!frame.run) return;
  clock.corrected(frame.id, realSeconds);
  keep({
    ...frame,
    run: { ...frame.run, watched: false, uncertain_seconds: uncertain },
    events: [...frame.events, event("corrected", clock.runNow(frame), realSeconds)],
  });
}

type How = "hand" | "mark" | "aborted";

/**
 * The shutter closed, or the frame was given up; what that did to it is asked of the core. `aimed` is the time that the
 * light asked for in the end [s].
 */
export async function end(frame: Frame, how: How, openFor: number, aimed: number | null): Promise<void> {
  const speed = frame.run?.speed ?? 1;
  const at = new Date(Date.parse(frame.opened_at) + (openFor / speed) * 1000);
  const told = aimed !== null && how !== "aborted" ? [event("aimed", at, aimed)] : [];
  const ended: Frame = {
    ...frame,
    state: how === "aborted" ? "aborted" : "closed",
    closed_at: at.toISOString(),
    closed_by: how === "aborted" ? null : how,
    events: [...frame.events, ...told, event(how === "aborted" ? "aborted" : "closed", at)],
    actual_seconds: openFor,
    error: null,
    ...(frame.run && {
      run: { ...frame.run, busy_until: frame.run.busy_until ?? busyUntil(how, at, openFor / speed) },
    }),
  };
  showEnded(ended);
  keep(ended);
  const error = await compare(aimed ?? frame.answer.seconds, openFor);
  // It may have been taken back while the server thought.
  const now = waitingFrame(frame.id);
  if (error && now?.state === ended.state) put({ ...now, error }, owner());
}

/** A camera that reduces noise is busy for as long again. */
function busyUntil(how: How, at: Date, openFor: number): string | null {
  const noise = read()?.list?.body?.noise_reduction;
  const reduces = noise === "on" || noise === "fixed";
  return reduces && how !== "aborted" && openFor >= 1 ? new Date(at.getTime() + openFor * 1000).toISOString() : null;
}

/** Show a frame's end here, whichever device armed it. */
export function showEnded(frame: Frame): void {
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
    run: { ...run, rereads: [], bias_stops: 0 },
  };
  write({ plan, question: null, list: null, finished: frame.id, queue: null, after: null, busyUntil: null });
}

/** Let the device go: when it really closed, and what ended it. */
export async function endByDevice(frame: Frame, aimed: number, openFor: number): Promise<Failure | null> {
  const speed = frame.run?.speed ?? 1;
  const opened_at = Date.parse(frame.opened_at);
  const asked = new Date(opened_at + (openFor / speed) * 1000);
  let closed;
  try {
    closed = await letGo(frame.opened_at, aimed / speed, asked);
  } catch {
    // The device was told the time when it opened; what it did does not hang on the server.
    closed = null;
  }
  const at = closed ? ((Date.parse(closed.at) - opened_at) / 1000) * speed : openFor;
  const busy = closed && Date.parse(closed.busy_until) > Date.parse(closed.at) ? closed.busy_until : null;
  const noted = frame.run && busy ? { ...frame, run: { ...frame.run, busy_until: busy } } : frame;
  await end(noted, "mark", at, aimed);
  return closed?.failure ?? null;
}

/** How far a time is from the planned one; null when the server cannot be asked. */
export async function compare(planned: number, actual: number): Promise<Schemas["LatenessAnswer"] | null> {
  try {
    return await answer(api.POST("/api/run/lateness", { body: { planned_seconds: planned, actual_seconds: actual } }));
  } catch {
    return null;
  }
}

/** The close was a slip: the shutter is still open and the clock never stopped. */
export function takeBack(frame: Frame): void {
  change({ finished: null });
  keep({
    ...frame,
    state: "open",
    closed_at: null,
    closed_by: null,
    events: [...frame.events, event("taken_back", clock.runNow(frame))],
    actual_seconds: null,
    error: null,
  });
}

export function keep(frame: Frame): void {
  put(frame, owner());
}

function event(kind: EventKind, at: Date, seconds: number | null = null): Frame["events"][number] {
  return { id: crypto.randomUUID(), at: at.toISOString(), kind, seconds };
}
