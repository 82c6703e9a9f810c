import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useReducer } from "react";
import { answer, api, type Schemas } from "../api/client";
import { bench, type Bench, type ExposureQuestion, fromStarter, keep, kept, type Move, type Step } from "./state";

export type Exposure = Schemas["ExposureAnswer"];
export type Ladders = Schemas["ScalesAnswer"];

/** The bench as it was left in this browser, else the starter's. */
export function useBench(): [Bench | null, (move: Move) => void] {
  const starter = useQuery({
    queryKey: ["starter"],
    queryFn: () => answer(api.GET("/api/starter")),
    staleTime: Infinity,
  });
  const [state, dispatch] = useReducer(
    (state: Bench | null, move: Move | Schemas["StarterAnswer"]) =>
      "do" in move ? state && bench(state, move, new Date()) : (state ?? fromStarter(move)),
    null,
    kept,
  );
  useEffect(() => {
    if (starter.data) dispatch(starter.data);
  }, [starter.data]);
  useEffect(() => {
    if (state) keep(state);
  }, [state]);
  return [state, useCallback((move: Move) => dispatch(move), [])];
}

export function exposureQuery(question: ExposureQuestion) {
  return {
    queryKey: ["exposure", question],
    queryFn: ({ signal }: { signal: AbortSignal }) => answer(api.POST("/api/exposure", { body: question, signal })),
    staleTime: Infinity,
    gcTime: 60_000,
  };
}

/** The answer to what stands on the bench; the last one stays up while the next is on its way. */
export function useExposure(question: ExposureQuestion) {
  return useQuery({ ...exposureQuery(question), placeholderData: keepPreviousData });
}

export function useLadders(step: Step, dialLimit: number): Ladders | undefined {
  return useQuery({
    queryKey: ["scales", step, dialLimit],
    queryFn: () => answer(api.GET("/api/scales", { params: { query: { step, dial_limit: dialLimit } } })),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  }).data;
}
