import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, api } from "../api/client";
import type { paths } from "../api/schema";
import { useSession } from "./session";
import { type Frame, useWaiting } from "./frames";

/** One frame, from this browser while it waits here, else from the account. */
export function useFrame(id: string | null): Frame | undefined {
  const waiting = useWaiting().find((one) => one.frame.id === id)?.frame;
  const session = useSession().data;
  const kept = useQuery({
    queryKey: ["frames", "one", id],
    queryFn: () => answer(api.GET("/api/frames/{key}", { params: { path: { key: id ?? "" } } })),
    enabled: id !== null && !waiting && session?.signed_in === true,
  });
  return waiting ?? (id === null ? undefined : kept.data);
}

export type Search = Omit<NonNullable<paths["/api/frames"]["get"]["parameters"]["query"]>, "limit" | "offset">;

/** The log: what waits in this browser on top of what the account keeps; a search asks the account alone. */
export function useFrames(limit: number, search: Search = {}) {
  const session = useSession().data;
  const account = session?.signed_in ? session.username : null;
  const searching = Object.keys(search).length > 0;
  const held = useWaiting()
    .filter((one) => one.owner === null || one.owner === account)
    .map((one) => one.frame);
  const waiting = searching ? [] : held;
  const page = useQuery({
    queryKey: ["frames", "page", account, limit, search],
    queryFn: () => answer(api.GET("/api/frames", { params: { query: { ...search, limit, offset: 0 } } })),
    enabled: account !== null,
    placeholderData: keepPreviousData,
  });
  const here = new Set(waiting.map((frame) => frame.id));
  const kept = (account === null ? [] : (page.data?.frames ?? [])).filter((frame) => !here.has(frame.id));
  const newest = [...waiting, ...kept].toSorted((one, other) => other.opened_at.localeCompare(one.opened_at));
  return {
    frames: searching ? kept : newest,
    waiting: held.filter((frame) => frame.state !== "open").length,
    count: (account === null ? 0 : (page.data?.count ?? 0)) + waiting.length - overlap(page.data?.frames ?? [], here),
    loading: session === undefined || (account !== null && page.isPending),
    guest: session?.signed_in === false,
    error: page.error,
    more: account !== null && (page.data?.count ?? 0) > limit,
  };
}

function overlap(frames: Frame[], here: Set<string>): number {
  return frames.filter((frame) => here.has(frame.id)).length;
}
