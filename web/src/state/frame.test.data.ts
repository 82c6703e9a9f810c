import type { Frame } from "./frames";

/** A frame for tests: whole, closed after 203 s, with whatever a test is about put in its place. */
export function sampleFrame(part: Partial<Frame> = {}): Frame {
  return {
    id: "a",
    state: "closed",
    opened_at: "2027-04-17T04:31:40Z",
    closed_at: "2027-04-17T04:35:03Z",
    closed_by: "hand",
    note: "",
    reading: { shutter: "1/40", aperture: "9", iso: "64", step: "third" },
    settings: { aperture: "9", iso: "64" },
    stack: [],
    scale: "exact",
    dial_limit: 30,
    answer: { seconds: 1, set_seconds: 1, base_seconds: 1, sure_within_stops: 0.2, dial_mark: "1", steps: [] },
    events: [],
    actual_seconds: 203,
    error: null,
    pictured: false,
    ...part,
  };
}
