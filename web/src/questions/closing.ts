import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "../api/client";
import type { Frame } from "../state/frames";
import { never } from "../ui/never";

export type Closing = Schemas["CloseAnswer"];

/** When enough light has gathered: asked anew only when something about the light was learnt. */
export function useClosing(frame: Frame): Closing | undefined {
  const { run } = frame;
  const question = run && {
    needed_seconds: run.metered_seconds,
    bias_stops: run.bias_stops,
    opened_at: frame.opened_at,
    now: frame.opened_at,
    delay_seconds: run.delay_seconds,
    stops_per_minute: run.stops_per_minute ?? null,
    readings: run.rereads,
    ev_points: [],
    film: run.film ?? null,
    tracked: true,
    rate_from_readings: true,
  };
  return useQuery({
    queryKey: ["closing", question],
    queryFn: () => answer(api.POST("/api/run/close", { body: question ?? never() })),
    enabled: Boolean(question),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    // A run outlives a bad connection: ask again until it answers.
    retry: true,
    retryDelay: 2000,
  }).data;
}

/** Where the frame stands at a time, between the core's own points. */
export function standing(closing: Closing | undefined, seconds: number): Pick<Point, "gathered" | "stops"> | null {
  const track = closing?.track ?? [];
  const place = track.findIndex((point) => point.seconds >= seconds);
  const [before, after] = [track[place - 1], track[place]];
  if (after && place === 0) return after;
  if (!before || !after) return track.at(-1) ?? null;
  const share = (seconds - before.seconds) / (after.seconds - before.seconds);
  const between = (one: number, other: number) => one + (other - one) * share;
  return { gathered: between(before.gathered, after.gathered), stops: between(before.stops, after.stops) };
}

type Point = Closing["track"][number];

/** The time at which the shutter should close [s on the camera's clock]; null when the frame never fills. */
export function aimedAt(frame: Frame, closing: Closing | undefined): number | null {
  const { run, answer: planned } = frame;
  const onDial = planned.dial_mark !== null;
  const learnt = (run?.rereads.length ?? 0) > 0 || (run?.bias_stops ?? 0) !== 0;
  // The dial closes itself; without news of the light the plan stands.
  if (onDial || !run || !closing || run.purpose === "dark") return planned.set_seconds;
  if (!learnt && run.stops_per_minute == null) return planned.set_seconds;
  return closing.close_after_seconds;
}
