import { useMemo } from "react";
import { documentOf, type OwnLog } from "../questions/frames";
import { useFinished } from "./frames";
import { draftOf, type Kit } from "./kit";
import { useExchange } from "./outbox";
import { useSession } from "./session";
import { useWaiting } from "./store";

const MOST_SENT = 2000;

/** Whose log is asked: an account's is read by the server, a guest's frames go along with the question. */
export function useOwnLog(kit: Kit): OwnLog | null {
  const { account } = useSession();
  const { head } = useExchange();
  const waiting = useWaiting().length;
  const own = useFinished();
  return useMemo(() => {
    if (kit.loading) return null;
    const here = () => ({
      frames: own.slice(0, MOST_SENT).map(documentOf),
      items: kit.items.map((item) => ({ ...draftOf(item) })),
    });
    return account === null ? here() : { account, head, waiting, here };
  }, [account, head, waiting, own, kit]);
}
