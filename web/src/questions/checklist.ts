import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";

export type ArmQuestion = Schemas["ArmInput"];

/** What hands do before this frame opens, and its rehearsal. */
export function useChecklist(question: ArmQuestion | null) {
  return useAsk("arm", question, (body, signal) => answer(api.POST("/api/run/arm", { body, signal })));
}

/** A bracket, a split or a repeat as a queue of frames. */
export function askSeries(body: Schemas["SeriesInput"]): Promise<Schemas["SeriesAnswer"]> {
  return answer(api.POST("/api/run/series", { body }));
}
