import { useEffect, useMemo } from "react";
import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";

export type Looks = Schemas["LooksAnswer"];
export type Rendering = Schemas["RenderingAnswer"];
/** Camera and subjects, as the questions about looks carry them. */
export type SceneQuestion = Pick<Schemas["LooksInput"], "camera" | "subjects">;

/** The windows of what is in front of the camera, and the aim where the wishes meet. */
export function useLooks(question: Schemas["LooksInput"] | null) {
  return useAsk("looks", question?.subjects.length ? question : null, (body, signal) =>
    answer(api.POST("/api/looks", { body, signal })),
  );
}

export type Aspect = Schemas["AspectAnswer"];

/** The words for what one sees of each kind of subject, once somebody wants them. */
export function useDescribed(wanted = true): Schemas["DescribedKindAnswer"][] {
  const reply = useAsk("looks-described", wanted ? {} : null, (body, signal) =>
    answer(api.POST("/api/looks/described", { body, signal })),
  );
  return reply.shown?.kinds ?? [];
}

/** What a time does to each of them, in words. */
export function useRenderings(question: Schemas["AtInput"] | null) {
  return useAsk(
    "looks-at",
    question?.subjects.length ? question : null,
    (body, signal) => answer(api.POST("/api/looks/at", { body, signal })),
    { settle: 120 },
  );
}

/** Longer addresses are cut by somebody on the way. */
const LONGEST_ADDRESS = 1000;

/**
 * The address of the drawing of a time, none for no scene; a long question is sent first and its picture handed back
 * as an address.
 */
export function useDrawing(scene: SceneQuestion | null, seconds: number, width: number) {
  const address = scene && drawingAt(scene, seconds, width);
  const long = address !== null && address.length > LONGEST_ADDRESS;
  const question = long && scene ? { ...scene, wants: [], seconds } : null;
  const draw = async (body: NonNullable<typeof question>, signal: AbortSignal) => {
    const blob: unknown = await answer(
      api.POST("/api/looks/drawing", { params: { query: { width } }, body, parseAs: "blob", signal }),
    );
    return blob as Blob;
  };
  const sent = useAsk("drawing", question, draw, { besides: [width] });
  const blob = long ? sent.answer : null;
  const made = useMemo(() => (blob ? URL.createObjectURL(blob) : null), [blob]);
  useEffect(() => {
    if (made !== null) return () => URL.revokeObjectURL(made);
  }, [made]);
  return { address: long ? made : address, failed: long && sent.error !== null };
}

/** Which drawing that is. */
export function drawingAt(scene: SceneQuestion, seconds: number, width: number): string {
  const question = JSON.stringify({ ...scene, seconds });
  return `/api/looks/drawing?${new URLSearchParams({ question, width: String(width) }).toString()}`;
}
