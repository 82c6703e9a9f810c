import type { Search } from "../../questions/log";

export const NAMES = ["text", "verdict", "defect", "glass", "sort"] as const;

/** The search that stands in the address, so that going back comes back to it. */
export function searchOf(params: URLSearchParams): Search {
  return Object.fromEntries(NAMES.flatMap((name) => (params.get(name) ? [[name, params.get(name)]] : [])));
}
