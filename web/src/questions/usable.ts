import { useQuery } from "@tanstack/react-query";
import { answer, api } from "../api/client";
import type { Laid } from "../state/bench";

/** How far each variable glass can be turned before this lens, by id: an estimate until frames say otherwise. */
export function useUsableEnds(laid: Laid): Record<string, number> {
  const variable = laid.items.filter((item) => item.facts.kind === "variable");
  const question = {
    glass: variable.map((item) => ({ ...item.facts })),
    focal_mm: laid.focalMm ?? 50,
    body: laid.body ? { ...laid.body.facts } : null,
  };
  const ends = useQuery({
    queryKey: ["usable", question],
    queryFn: () => answer(api.POST("/api/usable", { body: question })),
    enabled: variable.length > 0 && laid.focalMm !== undefined,
    staleTime: Infinity,
  }).data?.ends;
  return Object.fromEntries(variable.flatMap((item, at) => (ends?.[at] == null ? [] : [[item.id, ends[at]]])));
}
