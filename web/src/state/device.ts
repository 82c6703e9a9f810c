import { answer, api, type Schemas } from "../api/client";
import { browserStore } from "./browserStore";

/** What opens and closes the shutter: a hand on a remote, or the simulated trigger that ships. */
export interface Device {
  kind: "hand" | "simulated";
  /** Practice may run faster; 1 is real time. */
  speed: number;
  /** From press to shutter [s], as the five-second test found it for a hand's remote. */
  delay: number;
  tested: boolean;
  fault: Schemas["Trouble"];
}

export interface Failure {
  code: string;
  /** null when the server could not be asked at all. */
  text: string | null;
  /** The line of the arm list that would have caught it. */
  line: string;
}

export const FAULTS = ["none", "no_answer", "not_bulb", "drive", "electronic_shutter", "battery"] as const;
export const SPEEDS = [1, 10, 60] as const;

export const device = browserStore<Device>("jackstaff.device.1", {
  kind: "hand",
  speed: 1,
  delay: 0,
  tested: false,
  fault: "none",
});

const LATENCY_S = 0.12;

function asked(): Schemas["DeviceAsked"] {
  return { latency_s: LATENCY_S, ceiling_s: null, noise_reduction: false, fault: device.read().fault };
}

export function press(at: Date, bulb: boolean): Promise<Schemas["OpenedAnswer"]> {
  const body = { device: asked(), bulb, pressed_at: at.toISOString() };
  return answer(api.POST("/api/standins/trigger/open", { body }));
}

/** Let go at an instant, or hear what ended the frame before; real seconds. */
export function letGo(openedAt: string, plannedSeconds: number, at: Date): Promise<Schemas["ClosedAnswer"]> {
  const body = { device: asked(), opened_at: openedAt, planned_seconds: plannedSeconds, asked_at: at.toISOString() };
  return answer(api.POST("/api/standins/trigger/close", { body }));
}
