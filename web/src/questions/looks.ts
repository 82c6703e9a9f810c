import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { Laid } from "../state/bench";
import { never } from "../ui/never";
import { answer, api, type Schemas } from "../api/client";
import { useSettled } from "../ui/useSettled";

export type Looks = Schemas["LooksAnswer"];
export type Seen = Schemas["SeenAnswer"];

/** The scene as its questions carry it. */
export function sceneAsked(laid: Laid): Pick<Schemas["LooksAsked"], "camera" | "subjects"> {
  const { scene } = laid.bench;
  return {
    camera: {
      focal_mm: laid.focalMm ?? 50,
      sensor_width_mm: laid.body?.facts.sensor_width_mm ?? 36,
      pitch_um: laid.body?.facts.pitch_um ?? 4.35,
      elevation_deg: scene.elevationDeg,
      bearing_deg: scene.bearingDeg,
    },
    subjects: scene.subjects.map(({ id, kind, facts }) => ({ id, kind, ...facts })),
  };
}

/** The windows of what is in front of the camera, and the aim where the wishes meet. */
export function useLooks(laid: Laid | null) {
  const question = laid && { ...sceneAsked(laid), wants: laid.bench.scene.wants, own: laid.bench.scene.own };
  return useQuery({
    queryKey: ["looks", question],
    queryFn: ({ signal }) => answer(api.POST("/api/looks", { body: question ?? never(), signal })),
    enabled: question !== null && question.subjects.length > 0,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
}

/** What a time does to each of them, in words. */
export function useSeen(laid: Laid, seconds: number | undefined): Seen[] {
  const question = useSettled({ ...sceneAsked(laid), wants: [], seconds: seconds ?? 1 }, 120);
  const seen = useQuery({
    queryKey: ["looks-at", question],
    queryFn: ({ signal }) => answer(api.POST("/api/looks/at", { body: question, signal })),
    enabled: seconds !== undefined && question.subjects.length > 0,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
  return question.subjects.length > 0 ? (seen.data?.subjects ?? []) : [];
}

/** The address of the drawing of a time. */
export function drawingOf(laid: Laid, seconds: number, width: number): string {
  const question = JSON.stringify({ ...sceneAsked(laid), seconds });
  return `/api/looks/drawing?${new URLSearchParams({ question, width: String(width) }).toString()}`;
}
