import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";
import { askNear } from "./lightWatch";

export type ExposureEnd = Schemas["ExposureEndAnswer"];

/** When enough light has gathered: asked anew only when something about the light was learnt. */
export function useExposureEnd(question: Schemas["CloseInput"] | null): ExposureEnd | undefined {
  const ask = (body: Schemas["CloseInput"], signal: AbortSignal) => {
    const served = () => answer(api.POST("/api/run/close", { body, signal }));
    // What is watched changes every few seconds.
    return body.looks.length > 0 ? askNear("run/close", body, signal, served) : served();
  };
  // A run outlives a bad connection.
  return useAsk("closing", question, ask, { insist: true }).shown;
}
