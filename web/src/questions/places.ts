import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";

export type DaysQuestion = Schemas["DaysInput"];

/** What place a text means; asked when the hands rest. */
export function useCoordinates(text: string) {
  return useAsk(
    "coordinates",
    text.trim() === "" ? null : { text: text.trim() },
    (body, signal) => answer(api.POST("/api/outing/coordinates", { body, signal })),
    { settle: 300 },
  );
}

/** Whose clocks hang at a place. */
export function useZones(place: Schemas["ZoneInput"] | null) {
  return useAsk("zone", place, (body, signal) => answer(api.POST("/api/outing/zone", { body, signal })));
}

/** The coming days of a place, in the order of what matters. */
export function useDays(question: DaysQuestion | null) {
  return useAsk("days", question, (body, signal) => answer(api.POST("/api/outing/days", { body, signal })));
}

const WEEK = 7 * 86_400_000;

/** Waters of some days from the simulated feed, a week at a time. */
export async function askWaters(
  latitude: number,
  longitude: number,
  from: number,
  to: number,
): Promise<Schemas["WaterAnswer"][]> {
  const found: Schemas["WaterAnswer"][] = [];
  for (let start = from; start < to; start += WEEK) {
    const body = {
      latitude,
      longitude,
      from: new Date(start).toISOString(),
      to: new Date(Math.min(to, start + WEEK)).toISOString(),
    };
    found.push(...(await answer(api.POST("/api/outing/feed/waters", { body }))).waters);
  }
  return found;
}
