import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";

export type ExposureEnd = Schemas["ExposureEndAnswer"];

/** When enough light has gathered: asked anew only when something about the light was learnt. */
export function useExposureEnd(question: Schemas["CloseAsked"] | null): ExposureEnd | undefined {
  return useAsk("closing", question, (body, signal) => answer(api.POST("/api/run/close", { body, signal })), {
    // A run outlives a bad connection.
    insist: true,
  }).shown;
}
