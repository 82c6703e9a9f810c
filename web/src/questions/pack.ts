import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";

export type Hazard = Schemas["HazardAnswer"];
export type PackQuestion = Schemas["PlanInput"];

/** What goes into the bag for an outing's plan. */
export function usePack(outing: string, question: PackQuestion) {
  return useAsk(`pack ${outing}`, question, (body, signal) => answer(api.POST("/api/outing/pack", { body, signal })));
}

/** The hazards there are, each with the usual caution. */
export function useHazards(): Hazard[] {
  return useAsk("hazards", {}, (_, signal) => answer(api.GET("/api/outing/hazards", { signal }))).answer ?? [];
}
