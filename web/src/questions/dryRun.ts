import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";

export type Scenario = Schemas["ScenarioInput"];
export type Begun = Schemas["BegunAnswer"];
export type Shot = Schemas["ShotInput"];
export type Developed = Schemas["DevelopedAnswer"];
export type ReplayQuestion = Schemas["ReplayInput"];
export type Replay = Schemas["ReplayAnswer"];

/** The dry runs that ship. */
export function useScenarios() {
  return useAsk("dry-runs", {}, (body, signal) => answer(api.POST("/api/practice/scenarios", { body, signal })));
}

/** A scenario, the core's or of a file, made ready; refused with each fault's place. */
export function askBegin(body: Schemas["BeginInput"]): Promise<Begun> {
  return answer(api.POST("/api/practice/begin", { body }));
}

/** What the simulated camera's meter shows. */
export function askReadMeter(body: Schemas["ReadMeterInput"]): Promise<Schemas["MeteredAnswer"]> {
  return answer(api.POST("/api/practice/meter", { body }));
}

/** What a frame of a dry run came out as. */
export function useDeveloped(question: Schemas["DevelopInput"] | null) {
  return useAsk("dry-frame", question, (body, signal) => answer(api.POST("/api/practice/frame", { body, signal })));
}

/** The next step of a careful photographer. */
export function useHint(question: Schemas["HintInput"] | null) {
  return useAsk("dry-hint", question, (body, signal) => answer(api.POST("/api/practice/hint", { body, signal })));
}

/** A dry run beside what was possible. */
export function useReplay(question: ReplayQuestion | null) {
  return useAsk("dry-replay", question, (body, signal) => answer(api.POST("/api/practice/replay", { body, signal })));
}
