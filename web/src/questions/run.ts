import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";

type Device = Schemas["DeviceInput"];

/** How a frame was closed against its aim, by its light; null when nobody can be asked. */
export async function askTimingError(body: Schemas["TimingErrorInput"]): Promise<Schemas["TimingErrorAnswer"] | null> {
  try {
    return await answer(api.POST("/api/run/lateness", { body }));
  } catch {
    return null;
  }
}

/** The server's own count of seconds, which no change of a clock moves. */
export function askTime(): Promise<Schemas["TimeAnswer"]> {
  return answer(api.GET("/api/run/time"));
}

/** Press the simulated trigger. */
export function press(device: Device, at: Date, bulb: boolean): Promise<Schemas["OpenedAnswer"]> {
  return answer(api.POST("/api/standins/trigger/open", { body: { device, bulb, pressed_at: at.toISOString() } }));
}

/** Let the simulated trigger go at an instant, or hear what ended the frame before; real seconds. */
export function letGo(
  device: Device,
  openedAt: string,
  plannedSeconds: number,
  at: Date,
): Promise<Schemas["ClosedAnswer"]> {
  const body = { device, opened_at: openedAt, planned_seconds: plannedSeconds, asked_at: at.toISOString() };
  return answer(api.POST("/api/standins/trigger/close", { body }));
}

/** The simulated camera's drawing of a frame, as an address of this page. */
export function useSimulatedPicture(question: Schemas["PictureInput"] | null) {
  return useAsk("simulated-picture", question, async (body, signal) => {
    const blob: unknown = await answer(api.POST("/api/standins/camera/picture", { body, parseAs: "blob", signal }));
    return URL.createObjectURL(blob as Blob);
  }).answer;
}

/** What a frame that has been judged teaches the next one. */
export function useAgain(question: Schemas["AgainInput"] | null) {
  return useAsk("again", question, (body, signal) => answer(api.POST("/api/log/again", { body, signal })));
}
