import { useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "../api/client";
import { draftOf, type Kit } from "../state/kit";
import { useSession } from "../state/session";
import { documentOf, useWaiting } from "../state/frames";

export type Known = Schemas["KnownAnswer"];

/** What the frames say of the glass. */
export function useEvidence(kit: Kit) {
  return useLogAnswer("evidence", kit, (sent) =>
    answer(sent ? api.POST("/api/log/evidence", { body: sent }) : api.GET("/api/log/evidence")),
  );
}

/** What else the log teaches. */
export function useLearnt(kit: Kit) {
  return useLogAnswer("learnt", kit, (sent) =>
    answer(sent ? api.POST("/api/log/learnt", { body: sent }) : api.GET("/api/log/learnt")),
  );
}

/** Asked of the server, which reads an account's log itself; a guest's frames in this browser are sent along. */
function useLogAnswer<Answer>(what: string, kit: Kit, ask: (sent: Schemas["OwnLog"] | null) => Promise<Answer>) {
  const signedIn = useSession().data?.signed_in;
  const own = useWaiting()
    .map((one) => one.frame)
    .filter((frame) => frame.state !== "open");
  const sent = signedIn === true ? null : { frames: own.slice(0, 2000).map(documentOf), items: kit.items.map(draftOf) };
  return useQuery({
    queryKey: ["frames", what, sent, kit.items],
    queryFn: () => ask(sent),
    enabled: signedIn !== undefined && !kit.loading,
    placeholderData: (before) => before,
  });
}
