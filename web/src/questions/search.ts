import { useQuery } from "@tanstack/react-query";
import { answer, api } from "../api/client";
import type { Search } from "../state/useFrames";

export const NAMES = ["text", "verdict", "seen", "glass", "sort"] as const;

/** The search that stands in the address, so that going back comes back to it. */
export function searchOf(params: URLSearchParams): Search {
  return Object.fromEntries(NAMES.flatMap((name) => (params.get(name) ? [[name, params.get(name)]] : [])));
}

/** What one may find in a frame, with cause and cure. */
export function useFindings() {
  return useQuery({
    queryKey: ["seen"],
    queryFn: () => answer(api.GET("/api/log/seen")),
    staleTime: Infinity,
  });
}
