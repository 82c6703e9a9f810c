import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";

export type Looks = Schemas["LooksAnswer"];
export type Seen = Schemas["SeenAnswer"];
/** Camera and subjects, as the questions about looks carry them. */
export type SceneQuestion = Pick<Schemas["LooksAsked"], "camera" | "subjects">;

/** The windows of what is in front of the camera, and the aim where the wishes meet. */
export function useLooks(question: Schemas["LooksAsked"] | null) {
  return useAsk("looks", question?.subjects.length ? question : null, (body, signal) =>
    answer(api.POST("/api/looks", { body, signal })),
  );
}

export type Aspect = Schemas["AspectAnswer"];

/** The words for what one sees of each kind of subject, once somebody wants them. */
export function useDescribed(wanted = true): Schemas["DescribedKindAnswer"][] {
  const asked = useAsk("looks-described", wanted ? {} : null, (body, signal) =>
    answer(api.POST("/api/looks/described", { body, signal })),
  );
  return asked.shown?.kinds ?? [];
}

/** What a time does to each of them, in words. */
export function useSeen(question: Schemas["AtAsked"] | null) {
  return useAsk(
    "looks-at",
    question?.subjects.length ? question : null,
    (body, signal) => answer(api.POST("/api/looks/at", { body, signal })),
    { settle: 120 },
  );
}

/** The address of the drawing of a time. */
export function drawingOf(scene: SceneQuestion, seconds: number, width: number): string {
  const question = JSON.stringify({ ...scene, seconds });
  return `/api/looks/drawing?${new URLSearchParams({ question, width: String(width) }).toString()}`;
}
