import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useReducer } from "react";
import { answer, api, type Schemas } from "../api/client";
import { never } from "../ui/never";
import { glassOf, itemsOf } from "./bag";
import { starterQuery, useKit } from "./kit";
import {
  bench,
  type Bench,
  type ExposureQuestion,
  fromStarter,
  keep,
  kept,
  type Laid,
  lay,
  type Move,
  type SteerQuestion,
  type Step,
} from "./bench";

export type Exposure = Schemas["ExposureAnswer"];
export type Ladders = Schemas["ScalesAnswer"];
export type Steered = Schemas["SteerAnswer"];

/** The bench as it was left in this browser, else the starter's, laid out with the kit. */
export function useBench(): [Laid | null, (move: Move) => void] {
  const starter = useQuery(starterQuery());
  const kit = useKit();
  const [state, dispatch] = useReducer(
    (state: Bench | null, move: Move | Schemas["StarterAnswer"]) =>
      "do" in move ? state && bench(state, move, new Date()) : (state ?? fromStarter(move)),
    null,
    kept,
  );
  const known = state !== null;
  useEffect(() => {
    if (starter.data) dispatch(starter.data);
  }, [starter.data]);
  const glass = JSON.stringify(itemsOf(kit.items, "glass").map((item) => item.id));
  useEffect(() => {
    if (known && !kit.loading) dispatch({ do: "settle", glass: itemsOf(kit.items, "glass").map(glassOf) });
    // The kit's glass is what matters here, not the array that carries it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [known, kit.loading, glass]);
  useEffect(() => {
    if (state?.on) keep(state);
  }, [state]);
  const laid = state?.on && !kit.loading ? lay(state, kit.items) : null;
  return [laid, useCallback((move: Move) => dispatch(move), [])];
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

/** What floats, from what is held. */
export function useSteer(question: SteerQuestion | null) {
  return useQuery({
    queryKey: ["steer", question],
    queryFn: ({ signal }) => answer(api.POST("/api/steer", { body: question ?? never(), signal })),
    enabled: question !== null,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
}

export function useLadders(step: Step, dialLimit: number): Ladders | undefined {
  return useQuery({
    queryKey: ["scales", step, dialLimit],
    queryFn: () => answer(api.GET("/api/scales", { params: { query: { step, dial_limit: dialLimit } } })),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  }).data;
}
