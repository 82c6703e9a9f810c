import { answer, api, Refused, type Schemas } from "../api/client";
import { useAsk } from "./ask";
import { askHere } from "./lightWatch";

export type ExposureEnd = Schemas["ExposureEndAnswer"];

function askServed(body: Schemas["CloseAsked"], signal: AbortSignal): Promise<ExposureEnd> {
  return answer(api.POST("/api/run/close", { body, signal }));
}

/** When enough light has gathered: asked anew only when something about the light was learnt. */
export function useExposureEnd(question: Schemas["CloseAsked"] | null): ExposureEnd | undefined {
  // What is watched changes every few seconds: the core that measures it is in the page, and answers this as well.
  const ask = (body: Schemas["CloseAsked"], signal: AbortSignal) =>
    body.looks.length > 0
      ? askHere<ExposureEnd>("run/close", body, signal).catch((error: unknown) => {
          if (error instanceof Refused) throw error;
          return askServed(body, signal);
        })
      : askServed(body, signal);
  // A run outlives a bad connection.
  return useAsk("closing", question, ask, { insist: true }).shown;
}
