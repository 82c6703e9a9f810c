import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, api } from "../api/client";
import { never } from "../ui/never";
import type { ArmQuestion } from "../state/armQuestion";

/** What hands do before this frame opens, and its rehearsal. */
export function useArmList(question: ArmQuestion | null) {
  return useQuery({
    queryKey: ["arm", question],
    queryFn: ({ signal }) => answer(api.POST("/api/run/arm", { body: question ?? never(), signal })),
    enabled: question !== null,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  }).data;
}
