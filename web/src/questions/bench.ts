import { useQueries } from "@tanstack/react-query";
import { answer, api, type Schemas } from "../api/client";
import { type Reply, useAsk } from "./ask";

export type ExposureQuestion = Schemas["ExposureInput"];
export type Exposure = Schemas["ExposureAnswer"];
export type SteerQuestion = Schemas["SolveInput"];
export type Steered = Schemas["SolvedAnswer"];
export type Floating = Schemas["Floating"];
export type Ladders = Schemas["ScalesAnswer"];
export type Step = Schemas["Step"];
export type Stack = Schemas["StackAnswer"];

export function askExposure(question: ExposureQuestion, signal?: AbortSignal): Promise<Exposure> {
  return answer(api.POST("/api/exposure", { body: question, ...(signal && { signal }) }));
}

/** Base reading, stack and settings into one exposure time. */
export function useExposure(question: ExposureQuestion | null) {
  return useAsk("exposure", question, askExposure);
}

/** The same for several questions side by side. */
export function useExposures(questions: ExposureQuestion[]): Reply<Exposure>[] {
  return useQueries({
    queries: questions.map((question) => ({
      queryKey: ["exposure", question],
      queryFn: ({ signal }: { signal: AbortSignal }) => askExposure(question, signal),
      staleTime: Infinity,
      retry: false,
    })),
  }).map(({ data, error, isPending, refetch }) => ({
    answer: data,
    shown: data,
    stale: false,
    waiting: isPending,
    error,
    again: () => void refetch(),
  }));
}

/** What is worked out, from what is held. What another quantity came to is not even shown meanwhile. */
export function useSteer(question: SteerQuestion | null) {
  return useAsk(`steer ${question?.float ?? ""}`, question, (body, signal) =>
    answer(api.POST("/api/steer", { body, signal })),
  );
}

/** The marks a body's dials offer. */
export function useLadders(step: Step, dialLimit: number): Ladders | undefined {
  return useAsk("scales", { step, dial_limit: dialLimit }, (query, signal) =>
    answer(api.GET("/api/scales", { params: { query }, signal })),
  ).shown;
}

/** Every meaning of what a shutter display shows. */
export function askReadout(question: Schemas["ReadoutInput"], signal?: AbortSignal) {
  return answer(api.POST("/api/readout", { body: question, ...(signal && { signal }) }));
}

export function useReadout(question: Schemas["ReadoutInput"] | null) {
  return useAsk("readout", question, askReadout);
}

/** Every meaning of a filter's label. */
export function useDensity(text: string) {
  return useAsk("density", text === "" ? null : { text }, (body, signal) =>
    answer(api.POST("/api/density", { body, signal })),
  );
}

/** Stacks of the bag that reach a time, the best first; asked when the hands rest, never in the way of the sum. */
export function useStacks(question: Schemas["FinderInput"] | null) {
  return useAsk("stacks", question, (body, signal) => answer(api.POST("/api/stacks", { body, signal })), {
    settle: 180,
  });
}

/** What is wrong with what is on the lens. */
export function useRig(question: Schemas["RigInput"]): Schemas["AdviceAnswer"][] {
  const rig = useAsk("rig", question, (body, signal) => answer(api.POST("/api/rig", { body, signal })));
  return rig.answer?.findings ?? [];
}

/** How far each of these variable glasses can be turned before a lens; an estimate until frames say otherwise. */
export function useUsable(question: Schemas["UsableInput"] | null) {
  return useAsk("usable", question, (body, signal) => answer(api.POST("/api/usable", { body, signal })));
}
