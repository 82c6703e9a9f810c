import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";

export type DrillKind = Schemas["DrillKind"];
export type DrillQuestion = Schemas["DrillInput"];
export type Drill = Schemas["DrillAnswer"];
export type Graded = Schemas["GradedAnswer"];

/** One drill: its words, how it is answered, its choices. */
export function useDrill(question: DrillQuestion | null) {
  return useAsk("practice-drill", question, (body, signal) =>
    answer(api.POST("/api/practice/drill", { body, signal })),
  );
}

/** Which kind comes next. */
export function useNextDrill(question: Schemas["NextInput"] | null) {
  return useAsk("practice-next", question, (body, signal) => answer(api.POST("/api/practice/next", { body, signal })));
}

/** What an answer is worth. */
export function askGrade(body: Schemas["GradeInput"]): Promise<Graded> {
  return answer(api.POST("/api/practice/grade", { body }));
}
