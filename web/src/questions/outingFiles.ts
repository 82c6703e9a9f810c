import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";

/** What stands in a file of places or entries, read whole or refused; times without a zone are by the clocks of `zone`. */
export function useOutingFile(text: string, calendar: boolean, zone: string) {
  return useAsk(calendar ? "calendar" : "gpx", { text, zone }, async (body, signal) =>
    calendar
      ? { entries: (await answer(api.POST("/api/outing/calendar/read", { body, signal }))).entries, places: [] }
      : { entries: [], places: (await answer(api.POST("/api/outing/gpx/read", { body: { text }, signal }))).places },
  );
}

export function askGpx(body: Schemas["PlacesInput"]): Promise<Blob> {
  return answer(api.POST("/api/outing/gpx", { body, parseAs: "blob" }));
}

export function askCalendar(body: Schemas["CalendarInput"]): Promise<Blob> {
  return answer(api.POST("/api/outing/calendar", { body, parseAs: "blob" }));
}
