import { answer, api, type Schemas } from "../api/client";
import { type Laid, settingsOf } from "../bench/state";
import { type Frame, openFrame, put, useWaiting, waitingFrame } from "../log/outbox";
import { browserStore } from "../shell/browserStore";
import { owner } from "../shell/owner";

/** What is armed: the frame as it will be, before it has opened. */
export interface Armed {
  plan: Pick<Frame, "reading" | "settings" | "stack" | "scale" | "dial_limit" | "answer">;
  /** The last finished frame of this plan, so that its result stays on screen. */
  finished: string | null;
}

type Answer = Schemas["ExposureAnswer"];
type EventKind = Frame["events"][number]["kind"];

const store = browserStore<Armed | null>("jackstaff.armed.1", null);
const { read, write } = store;

export const useArmed = store.use;

/** Take what stands on the bench, question and answer, to Run. */
export function arm(laid: Laid, answered: Answer): void {
  const { bench, stack } = laid;
  write({
    finished: null,
    plan: {
      reading: {
        ...(bench.meter === "hand"
          ? { ev100: bench.ev100 }
          : { shutter: bench.shutter, aperture: bench.aperture, iso: bench.iso }),
        step: laid.step,
        metered_at: bench.meteredAt,
      },
      settings: settingsOf(laid),
      stack: stack.map((glass) => ({
        name: glass.name,
        stops: glass.stops,
        offset: glass.offset,
        in_reading: bench.inReading.includes(glass.id),
      })),
      scale: bench.scale,
      dial_limit: laid.dialLimit,
      answer: {
        seconds: answered.seconds,
        set_seconds: answered.set_seconds,
        base_seconds: answered.base_seconds,
        sure_within_stops: answered.sure_within_stops,
        dial_mark: answered.dial_mark,
        steps: answered.steps,
      },
    },
  });
}

export function rearm(): void {
  const armed = read();
  if (armed) write({ ...armed, finished: null });
}

/** The running frame, wherever it was opened in this browser. */
export function useOpenFrame(): Frame | undefined {
  return useWaiting().find((one) => one.frame.state === "open")?.frame;
}

/** The shutter opened at `at`. Written to this browser at once, then to the account. */
export function open(at: Date): void {
  const armed = read();
  if (!armed || openFrame()) return;
  keep({
    ...armed.plan,
    id: crypto.randomUUID(),
    state: "open",
    opened_at: at.toISOString(),
    closed_at: null,
    closed_by: null,
    note: "",
    events: [event("opened", at)],
    actual_seconds: null,
    error: null,
  });
}

/** It really opened `seconds` before the clock says. */
export function openedEarlier(frame: Frame, seconds: number): void {
  const opened = new Date(Date.parse(frame.opened_at) - seconds * 1000);
  keep({
    ...frame,
    opened_at: opened.toISOString(),
    events: [...frame.events, event("shifted", new Date(), -seconds)],
  });
}

/** The shutter closed, or the frame was given up; what that did to it is asked of the core. */
export async function end(frame: Frame, how: "hand" | "mark" | "aborted", at: Date): Promise<void> {
  const actual = (at.getTime() - Date.parse(frame.opened_at)) / 1000;
  const ended: Frame = {
    ...frame,
    state: how === "aborted" ? "aborted" : "closed",
    closed_at: at.toISOString(),
    closed_by: how === "aborted" ? null : how,
    events: [...frame.events, event(how === "aborted" ? "aborted" : "closed", at)],
    actual_seconds: actual,
    error: null,
  };
  const armed = read();
  write({ plan: planOf(frame), finished: frame.id, ...(armed && { plan: armed.plan }) });
  keep(ended);
  const error = await compare(frame.answer.seconds, actual);
  // It may have been taken back while the server thought.
  const now = waitingFrame(frame.id);
  if (error && now?.state === ended.state) put({ ...now, error }, owner());
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
  rearm();
  keep({
    ...frame,
    state: "open",
    closed_at: null,
    closed_by: null,
    events: [...frame.events, event("taken_back", new Date())],
    actual_seconds: null,
    error: null,
  });
}

export function annotate(frame: Frame, note: string): void {
  keep({ ...frame, note });
}

function keep(frame: Frame): void {
  put(frame, owner());
}

function planOf(frame: Frame): Armed["plan"] {
  const { reading, settings, stack, scale, dial_limit, answer: answered } = frame;
  return { reading, settings, stack, scale, dial_limit, answer: answered };
}

function event(kind: EventKind, at: Date, seconds: number | null = null): Frame["events"][number] {
  return { id: crypto.randomUUID(), at: at.toISOString(), kind, seconds };
}
