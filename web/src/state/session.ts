import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { answer, api, type Schemas } from "../api/client";
import { adoptKit, starterQuery } from "./kit";
import { drop, flush, type Frame, openFrame, put, useWaiting, waitingFrame } from "./frames";
import { showEnded } from "./running";
import { useOutingsInStep } from "./outings";
import { setOwner } from "./owner";
import { say } from "../ui/say";
import { words } from "../words";

/** What another device did to the frame that runs here too. */
function heard(there: Frame, account: string): void {
  const here = waitingFrame(there.id);
  if (here?.state !== "open") return;
  const known = new Set(here.events.map((event) => event.id));
  const news = there.events.filter((event) => !known.has(event.id));
  if (news.length === 0) return;
  if (there.state === "open") put(there, account);
  else {
    drop(there.id);
    showEnded(there);
  }
}

export type Session = Schemas["Session"];

export function useSession() {
  return useQuery({
    queryKey: ["session"],
    queryFn: () => answer(api.GET("/api/session")),
    staleTime: Infinity,
    refetchOnWindowFocus: false,
  });
}

/**
 * Keeps account and browser in step: whatever waits here is sent as soon as somebody is signed in,
 * and an exposure that runs on another device is shown here too. Mounted once.
 */
export function useKeptInStep(): void {
  const client = useQueryClient();
  const session = useSession().data;
  const account = session?.signed_in ? session.username : null;
  const waiting = useWaiting();
  const busy = useRef(false);
  const again = useRef(false);

  useEffect(() => {
    if (session) setOwner(account);
  }, [session, account]);
  useOutingsInStep(account);

  useEffect(() => {
    if (!account) return;
    const push = async () => {
      again.current = true;
      if (busy.current) return;
      busy.current = true;
      try {
        while (again.current) {
          again.current = false;
          const adopted = await flush(account);
          if (adopted > 0) say({ text: words.session.adopted(adopted) });
          const starter = await client.query(starterQuery());
          const { things, kit } = await adoptKit(starter.kit.items);
          if (kit) {
            // A look at the kit that was on its way is older than what was just written.
            await client.cancelQueries({ queryKey: ["kit"] });
            client.setQueryData(["kit", account], kit);
            say({ text: words.session.kitAdopted(things) });
          }
        }
        await client.invalidateQueries({ queryKey: ["frames"] });
      } catch {
        await client.invalidateQueries({ queryKey: ["session"] });
      } finally {
        busy.current = false;
      }
    };
    void push();
    const timer = window.setInterval(() => void push(), 15_000);
    return () => window.clearInterval(timer);
  }, [account, waiting, client]);

  useEffect(() => {
    if (!account) return;
    const look = async () => {
      const here = openFrame();
      if (here?.run) {
        const there = await answer(api.GET("/api/frames/{key}", { params: { path: { key: here.id } } })).catch(
          () => null,
        );
        if (there) heard(there, account);
        return;
      }
      const open = await answer(api.GET("/api/frames/running")).catch(() => null);
      if (open && !waitingFrame(open.id)) put(open, account);
    };
    const again = () => void look();
    again();
    const timer = window.setInterval(again, 3000);
    window.addEventListener("focus", again);
    return () => {
      window.clearInterval(timer);
      window.removeEventListener("focus", again);
    };
  }, [account]);
}
