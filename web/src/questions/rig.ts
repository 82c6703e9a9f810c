import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "../api/client";
import { itemsOf } from "../state/bag";
import { useKit } from "../state/kit";
import { type Laid, settingsOf } from "../state/bench";

/** What is wrong with what is on the lens: findings of the core, none while nothing is on. */
export function useRig(laid: Laid): Schemas["AdviceAnswer"][] {
  const kit = useKit();
  const rings = itemsOf(kit.items, "accessory").filter((item) => item.facts.kind === "step_ring");
  const question = {
    glass: laid.stack.map((glass) => ({
      name: glass.name,
      facts: { ...laid.items.find((item) => item.id === glass.id)?.facts },
      stops: Math.max(0, glass.stops + (glass.offset ?? 0)),
      in_reading: laid.bench.inReading.includes(glass.id),
    })),
    body: laid.body ? { ...laid.body.facts } : null,
    lens: laid.lens ? { ...laid.lens.facts } : null,
    holder: laid.holder ? { ...laid.holder.facts } : null,
    focal_mm: laid.focalMm ?? null,
    f_number: fNumber(settingsOf(laid).aperture),
    step_rings: rings.map((item) => ({ ...item.facts })),
  };
  const found = useQuery({
    queryKey: ["rig", question],
    queryFn: ({ signal }) => answer(api.POST("/api/rig", { body: question, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
  return found.data?.findings ?? [];
}

function fNumber(mark: string): number | null {
  const number = Number(mark);
  return number >= 0.5 && number <= 512 ? number : null;
}
