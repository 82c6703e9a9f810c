import { useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "../api/client";
import { draftOf, type Kit } from "../kit/useKit";
import { useSession } from "../shell/useSession";
import { documentOf, useWaiting } from "./outbox";

export type Known = Schemas["KnownAnswer"];

interface Answers {
  evidence: Schemas["EvidenceAnswer"];
  learnt: Schemas["LearntAnswer"];
}

/** What the log teaches: an account's by the server, a guest's from the frames in this browser. */
export function useLogAnswer<What extends keyof Answers>(what: What, kit: Kit) {
  const signedIn = useSession().data?.signed_in;
  const own = useWaiting()
    .map((one) => one.frame)
    .filter((frame) => frame.state !== "open");
  const body = { frames: own.slice(0, 2000).map(documentOf), items: kit.items.map(draftOf) };
  return useQuery({
    queryKey: ["frames", what, signedIn === true ? "account" : body, kit.items],
    queryFn: async () => {
      const path = `/api/log/${what}` as const;
      const asked =
        signedIn === true ? api.GET(path as "/api/log/evidence") : api.POST(path as "/api/log/evidence", { body });
      return (await answer(asked)) as unknown as Answers[What];
    },
    enabled: signedIn !== undefined && !kit.loading,
    placeholderData: (before) => before,
  });
}
