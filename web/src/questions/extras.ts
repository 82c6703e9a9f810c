import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";
import type { SteerQuestion } from "./bench";

/** What each aperture costs in time, depth and sharpness. */
export function useTrade(question: Schemas["TradeInput"]) {
  return useAsk("trade", question, (body, signal) => answer(api.POST("/api/trade", { body, signal })));
}

/** The filter for a wide aperture within sync speed. */
export function useFlash(question: Schemas["FlashInput"] | null) {
  return useAsk("flash", question, (body, signal) => answer(api.POST("/api/flash", { body, signal })));
}

/** Holding a shutter for video while the light changes. */
export function useVideo(question: Schemas["VideoInput"] | null) {
  return useAsk("video", question, (body, signal) => answer(api.POST("/api/video", { body, signal })));
}

/** A trial scaled up. */
export function useTrial(question: Schemas["TrialInput"] | null) {
  return useAsk("trial", question, (body, signal) => answer(api.POST("/api/trial", { body, signal })));
}

/** Which graduated glass. */
export function useGraduated(question: Schemas["GraduatedInput"] | null) {
  return useAsk("graduated", question, (body, signal) => answer(api.POST("/api/graduated", { body, signal })));
}

/** The reading that makes each of several stacks give a time, all or none. */
export function usePairs(questions: SteerQuestion[]) {
  return useAsk("pairs", questions, (all, signal) =>
    Promise.all(all.map((body) => answer(api.POST("/api/steer", { body, signal })))),
  );
}

/** Which times a bag reaches from a reading. */
export function useReach(question: Schemas["ReachInput"] | null) {
  return useAsk("reach", question, (body, signal) => answer(api.POST("/api/reach", { body, signal })));
}
