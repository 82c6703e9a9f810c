import { answer, api, Refused, type Schemas, Unreachable } from "../api/client";
import { browserStore } from "./browserStore";

/**
 * Frames on their way to the server. Every frame is written here first, at once; a signed-in
 * person's frames then go to the account and leave, a guest's stay until somebody signs in.
 */
export type Frame = Schemas["FrameKept"];

export interface Waiting {
  frame: Frame;
  /** Whose it is; null is a guest's, which the next person to sign in adopts. */
  owner: string | null;
}

const NONE: Waiting[] = [];
const store = browserStore<Waiting[]>("jackstaff.frames.1", NONE);
const { read, write } = store;

/** The frames that this browser still holds, the newest first. */
export const useWaiting = store.use;

export function waitingFrame(id: string): Frame | undefined {
  return read().find((one) => one.frame.id === id)?.frame;
}

/** Write a frame here; the running one included, so that a reload comes back to it. */
export function put(frame: Frame, owner: string | null): void {
  const others = read().filter((one) => one.frame.id !== frame.id);
  const all = [{ frame, owner }, ...others];
  write(all.toSorted((one, other) => other.frame.opened_at.localeCompare(one.frame.opened_at)));
}

export function drop(id: string): void {
  write(read().filter((one) => one.frame.id !== id));
}

/** The exposure that is running in this browser, if any. */
export function openFrame(): Frame | undefined {
  return read().find((one) => one.frame.state === "open")?.frame;
}

/**
 * Send what belongs to `account` (its own and a guest's) and let go of it; a running frame stays here
 * as well. Returns how many of a guest's frames were adopted.
 */
export async function flush(account: string): Promise<number> {
  let adopted = 0;
  for (const { frame, owner } of read().toReversed()) {
    if (owner !== null && owner !== account) continue;
    try {
      await send(frame);
    } catch (error) {
      // Offline: everything waits. Refused: this one stays visible here, the rest goes on.
      if (error instanceof Unreachable) return adopted;
      if (error instanceof Refused && error.status !== 401) continue;
      throw error;
    }
    if (owner === null) adopted += 1;
    const now = waitingFrame(frame.id);
    if (now && JSON.stringify(now) !== JSON.stringify(frame)) continue;
    if (frame.state === "open") put(frame, account);
    else drop(frame.id);
  }
  return adopted;
}

/** The record alone: what the clock says is worked out by the server. */
export function documentOf(frame: Frame): Schemas["FrameDoc"] {
  const doc: Schemas["FrameDoc"] & Partial<Frame> = { ...frame };
  delete doc.actual_seconds;
  delete doc.error;
  delete doc.pictured;
  return doc;
}

/** Keep one frame in the account. */
export function send(frame: Frame): Promise<Frame> {
  return answer(api.PUT("/api/frames/{key}", { params: { path: { key: frame.id } }, body: documentOf(frame) }));
}
