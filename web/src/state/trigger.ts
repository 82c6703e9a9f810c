import type { Schemas } from "../api/client";
import { letGo, press } from "../questions/run";
import type { Frame } from "./frames";
import { type Device, habits } from "./habits";

/** The simulated trigger: what it is asked with, its trial, and whether it has given out. */

export interface Failure {
  code: string;
  /** null when nobody could be asked at all. */
  text: string | null;
  /** The line of the checklist that would have caught it. */
  line: string;
}

/** What the simulated trigger is asked with. */
export function deviceOf({ fault }: Device): Schemas["DeviceInput"] {
  return { latency_s: LATENCY_S, ceiling_s: null, noise_reduction: false, fault };
}

const LATENCY_S = 0.12;

/** Five seconds with the simulated trigger, to see whether it answers: what it says, and how long it was open. */
export async function tryDevice(at: Date, seconds: number) {
  const device = deviceOf(habits().device);
  const pressed = await press(device, at, true);
  if (pressed.at == null) return { failure: pressed.failure ?? null, delay: 0, length: 0 };
  const from = Date.parse(pressed.at);
  const closed = await letGo(device, pressed.at, seconds, new Date(from + seconds * 1000));
  return {
    failure: closed.failure ?? null,
    delay: (from - at.getTime()) / 1000,
    length: (Date.parse(closed.at) - from) / 1000,
  };
}

/** Whether the simulated device has stopped by itself by now. */
export async function givenOut(frame: Frame, aimed: number, openFor: number) {
  const speed = frame.run?.speed ?? 1;
  const from = Date.parse(frame.opened_at);
  const device = deviceOf(habits().device);
  const closed = await letGo(device, frame.opened_at, aimed / speed, new Date(from + (openFor / speed) * 1000));
  if (closed.ended_by === "asked") return null;
  return { seconds: ((Date.parse(closed.at) - from) / 1000) * speed, text: closed.failure?.text ?? "" };
}
