import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, api } from "../api/client";
import { useSession } from "../shell/useSession";
import { type Frame, useWaiting } from "./outbox";

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

/** The log: what waits in this browser on top of what the account keeps. */
export function useFrames(limit: number) {
  const session = useSession().data;
  const account = session?.signed_in ? session.username : null;
  const waiting = useWaiting()
    .filter((one) => one.owner === null || one.owner === account)
    .map((one) => one.frame);
  const page = useQuery({
    queryKey: ["frames", "page", account, limit],
    queryFn: () => answer(api.GET("/api/frames", { params: { query: { limit, offset: 0 } } })),
    enabled: account !== null,
    placeholderData: keepPreviousData,
  });
  const here = new Set(waiting.map((frame) => frame.id));
  const kept = (account === null ? [] : (page.data?.frames ?? [])).filter((frame) => !here.has(frame.id));
  const frames = [...waiting, ...kept].toSorted((one, other) => other.opened_at.localeCompare(one.opened_at));
  return {
    frames,
    waiting: waiting.filter((frame) => frame.state !== "open").length,
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
