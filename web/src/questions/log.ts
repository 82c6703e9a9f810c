import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { answer, api, type Schemas, Unreachable } from "../api/client";
import { asForm } from "../api/form";
import type { paths } from "../api/schema";
import { useAsk } from "./ask";
import { documentOf, type Frame, type OwnLog } from "./frames";

export { documentOf, type Frame, type OwnLog };

export type Digest = Schemas["DigestAnswer"];
export type Known = Schemas["KnownAnswer"];
export type Evidence = Schemas["EvidenceAnswer"];
export type Learnt = Schemas["LearntAnswer"];
type Query = NonNullable<paths["/api/frames"]["get"]["parameters"]["query"]>;
export type Search = Omit<Query, "limit" | "offset">;

const PAGE = 100;

/** The account's frames that fit a search, page after page. */
export function useSearch(search: Search | null, account: number | null, head: number) {
  return useInfiniteQuery({
    queryKey: ["search", account, head, search],
    queryFn: ({ pageParam, signal }) =>
      answer(api.GET("/api/frames", { params: { query: { ...search, limit: PAGE, offset: pageParam } }, signal })),
    initialPageParam: 0,
    getNextPageParam: (page, pages) => {
      const had = pages.reduce((sum, part) => sum + part.frames.length, 0);
      return had < page.count && page.frames.length > 0 ? had : undefined;
    },
    enabled: search !== null && account !== null,
    placeholderData: keepPreviousData,
  });
}

/** The account's frames between two instants. */
export async function askFramesBetween(since: string, until: string): Promise<Frame[]> {
  return (await answer(api.GET("/api/frames", { params: { query: { since, until, limit: 200 } } }))).frames;
}

/** What one may find in a frame, with cause and cure. */
export function useFindings() {
  return useAsk("defects", {}, (_, signal) => answer(api.GET("/api/log/defects", { signal }))).shown ?? [];
}

/** The picture kept beside a frame. */
export function usePicture(id: string | null, account: number | null): Digest | undefined {
  return useAsk(
    `picture ${id ?? ""}`,
    id === null || account === null ? null : { id, account },
    ({ id: key }, signal) => answer(api.GET("/api/frames/{key}/picture", { params: { path: { key } }, signal })),
  ).answer;
}

export function keepPicture(key: string, file: File): Promise<Digest> {
  return answer(api.POST("/api/frames/{key}/picture", { params: { path: { key } }, ...asForm({ file }) }));
}

export async function forgetPicture(key: string): Promise<void> {
  await answer(api.DELETE("/api/frames/{key}/picture", { params: { path: { key } } }));
}

/** What the frames say of the glass. */
export function useEvidence(own: OwnLog | null) {
  return useAsk("evidence", own, (log, signal) =>
    ofOwn(
      log,
      () => answer(api.GET("/api/log/evidence", { signal })),
      (body) => answer(api.POST("/api/log/evidence", { body, signal })),
    ),
  );
}

/** What else the log teaches. */
export function useLearnt(own: OwnLog | null) {
  return useAsk("learnt", own, (log, signal) =>
    ofOwn(
      log,
      () => answer(api.GET("/api/log/learnt", { signal })),
      (body) => answer(api.POST("/api/log/learnt", { body, signal })),
    ),
  );
}

async function ofOwn<T>(own: OwnLog, onServer: () => Promise<T>, sent: (log: Schemas["LogInput"]) => Promise<T>) {
  if ("frames" in own) return sent(own);
  try {
    return await onServer();
  } catch (error) {
    if (!(error instanceof Unreachable) || error.status !== null) throw error;
    return sent(own.here());
  }
}

/** The time for next time, cause and cure, and what to do in the edit. */
export function useReviewed(question: Schemas["ReviewedInput"] | null) {
  return useAsk(`reviewed ${question?.frame.id ?? ""}`, question, (body, signal) =>
    answer(api.POST("/api/log/reviewed", { body, signal })),
  );
}

/** What a frame teaches by itself, in light as it was. */
export function reviewOf(frame: Frame): Schemas["ReviewedInput"] {
  const { step } = frame.reading;
  const beside = { now: null, sensor_height_mm: 24, pitch_deg: null, glass: [] };
  return { frame: documentOf(frame), light_stops: 0, step, ...beside };
}

/** Times down, glasses across, to print and take along; other glasses' times are not even shown under these names. */
export function useFieldCard(question: Schemas["FieldCardInput"] | null) {
  return useAsk(`fieldcard ${JSON.stringify(question?.glass)}`, question, (body, signal) =>
    answer(api.POST("/api/fieldcard", { body, signal })),
  );
}
