import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "../api/client";
import { type Laid, readingOf } from "../state/bench";
import { kitGlass } from "../state/bag";
import { useLooks } from "./looks";
import { never } from "../ui/never";
import { instantNear, type Outing, placeAsked, span } from "../state/outings";

export type Light = Schemas["LightAnswer"];
export type Swaps = Schemas["SwapsAnswer"];
export type Tide = Schemas["TideAnswer"];
export type Plausible = Schemas["PlausibleAnswer"];

const STEP_SECONDS = 60;

function period(outing: Outing) {
  const [from, to] = span(outing);
  return { from: new Date(from).toISOString(), to: new Date(to).toISOString(), step_seconds: STEP_SECONDS };
}

/** The light over the outing. */
export function useLight(outing: Outing) {
  const question = { ...placeAsked(outing), ...period(outing) };
  return useQuery({
    queryKey: ["light", question],
    queryFn: ({ signal }) => answer(api.POST("/api/light", { body: question, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
}

/** When to change glass so that the time stays in the aim of the wished looks; nothing without an aim. */
export function useSwaps(outing: Outing, laid: Laid | null) {
  const aim = useAim(laid);
  const question = aim &&
    laid && {
      ...placeAsked(outing),
      ...period(outing),
      from_seconds: Math.max(aim.from_seconds, 1 / 1000),
      to_seconds: aim.to_seconds ?? aim.middle_seconds * 4,
      glass: laid.items.slice(0, 24).map(kitGlass),
      slots: Math.min(4, laid.holder?.facts.slots ?? 2),
      apertures: [String(laid.lens?.facts.aperture_widest ?? 2.8), String(laid.lens?.facts.aperture_smallest ?? 22)],
      isos: laid.body?.offers.isos.slice(0, 3) ?? ["100"],
      sharp_to: laid.body?.offers.sharp_to ?? 11,
      on: laid.bench.on ?? [],
    };
  return useQuery({
    queryKey: ["swaps", question],
    queryFn: ({ signal }) => answer(api.POST("/api/outing/swaps", { body: question || never(), signal })),
    enabled: Boolean(question),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  }).data;
}

function useAim(laid: Laid | null) {
  const looks = useLooks(laid);
  return laid ? looks.data?.aim : undefined;
}

/** Heights of the water over the outing and when to leave, from the entered high and low waters. */
export function useTide(outing: Outing) {
  const [from, to] = span(outing);
  const marks = Array.from({ length: 49 }, (_, at) => new Date(from + ((to - from) * at) / 48).toISOString());
  const question = {
    waters: outing.waters.map((water) => ({
      at: new Date(instantNear(outing, water.time)).toISOString(),
      height_m: water.height_m,
    })),
    at: new Date(from).toISOString(),
    floods_at_m: outing.floods_at_m,
    walk_minutes: outing.walk_minutes,
    margin_minutes: outing.margin_minutes,
    marks,
  };
  return useQuery({
    queryKey: ["tide", question],
    queryFn: ({ signal }) => answer(api.POST("/api/outing/tide", { body: question, signal })),
    enabled: outing.waters.length > 0,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
}

/** Whether the bench's reading fits this place's sky at an instant, and what EV it is. */
export function usePlausible(outing: Outing, laid: Laid | null, at: number) {
  const question = laid && {
    ...placeAsked(outing),
    at: new Date(Math.round(at / 60_000) * 60_000).toISOString(),
    reading: readingOf(laid),
  };
  return useQuery({
    queryKey: ["plausible", question],
    queryFn: ({ signal }) => answer(api.POST("/api/outing/plausible", { body: question || never(), signal })),
    enabled: Boolean(question),
    staleTime: Infinity,
    retry: false,
  }).data;
}

/** The longest frame that still fills before turning back, minute by minute. */
export function useFillable(outing: Outing) {
  const question = { ...placeAsked(outing), ...period(outing) };
  return useQuery({
    queryKey: ["fillable", question],
    queryFn: ({ signal }) => answer(api.POST("/api/outing/fillable", { body: question, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  }).data?.longest_seconds;
}

/** When the light will be what a reading wants, from an instant on and within a day. */
export function useWait(outing: Outing, from: number, wanted: Schemas["ReadingAsked"] | null) {
  const start = Math.round(from / 60_000) * 60_000;
  const question = wanted && {
    ...placeAsked(outing),
    from: new Date(start).toISOString(),
    to: new Date(start + 20 * 3_600_000).toISOString(),
    step_seconds: STEP_SECONDS,
    wanted,
  };
  return useQuery({
    queryKey: ["wait", question],
    queryFn: ({ signal }) => answer(api.POST("/api/outing/wait", { body: question || never(), signal })),
    enabled: Boolean(question),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  }).data;
}

/** How many frames of the bench's time fit before `until`. */
export function useBudget(
  laid: Laid | null,
  seconds: number | undefined,
  from: number,
  until: number,
  celsius: number,
) {
  const body = laid?.body?.facts;
  const question = seconds !== undefined &&
    until > from && {
      seconds,
      available_seconds: Math.round((until - from) / 60_000) * 60,
      handling_seconds: 60,
      noise_reduction: (body?.noise_reduction ?? "off") === "on",
      battery_wh: body?.battery_wh ?? null,
      draw_w: body?.draw_w ?? 3,
      celsius,
    };
  return useQuery({
    queryKey: ["budget", question],
    queryFn: ({ signal }) => answer(api.POST("/api/outing/budget", { body: question || never(), signal })),
    enabled: Boolean(question),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  }).data;
}
