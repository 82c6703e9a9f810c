import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "../api/client";
import { type Laid, readingOf } from "../bench/state";
import { kitGlass } from "../kit/bag";
import { useLooks } from "../looks/useLooks";
import { never } from "../shell/never";
import { type Outing, placeAsked, span } from "./outings";
import { instantOf } from "./zone";

export type Light = Schemas["LightAnswer"];
export type Swaps = Schemas["SwapsAnswer"];
export type Tide = Schemas["TideAnswer"];

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
      at: new Date(instantOf(outing.date, water.time, outing.zone)).toISOString(),
      height_m: water.heightM,
    })),
    at: new Date(from).toISOString(),
    floods_at_m: outing.floodsAtM,
    walk_minutes: outing.walkMinutes,
    margin_minutes: outing.marginMinutes,
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
