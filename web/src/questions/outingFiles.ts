import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";

/** What stands in a file of places or entries, read whole or refused. */
export function useOutingFile(text: string, calendar: boolean) {
  return useAsk(calendar ? "calendar" : "gpx", { text }, async (body, signal) =>
    calendar
      ? { entries: (await answer(api.POST("/api/outing/calendar/read", { body, signal }))).entries, places: [] }
      : { entries: [], places: (await answer(api.POST("/api/outing/gpx/read", { body, signal }))).places },
  );
}

export function askGpx(body: Schemas["SpotsAsked"]): Promise<Blob> {
  return answer(api.POST("/api/outing/gpx", { body, parseAs: "blob" }));
}

export function askCalendar(body: Schemas["CalendarAsked"]): Promise<Blob> {
  return answer(api.POST("/api/outing/calendar", { body, parseAs: "blob" }));
}
