import { useEffect, useSyncExternalStore } from "react";
import { Button } from "react-bootstrap";
import { clockOff, isFar, onClock } from "../api/clock";
import { subscribe, takenAlong } from "../engine/taken";
import { useOpenFrame } from "../state/frames";
import { asides } from "../state/kept";
import { exchange, useExchange } from "../state/outbox";
import { useSession } from "../state/session";
import { broken, useTrouble, useWaiting } from "../state/store";
import { lazily } from "../ui/lazily";
import { words } from "../words";

const NoticeList = lazily(async () => (await import("./NoticeList")).NoticeList, true);
const say = words.keeping;

/** What a person has to know about what is kept: trouble, refusals, and what two devices wrote at once. */
export function Notices() {
  const trouble = useTrouble();
  const refused = useWaiting().filter((doc) => doc.waiting?.refused);
  const unread = broken.useDocs();
  const aside = asides.useDocs();
  const { signal, stage, newer, passed } = useSyncExternalStore(subscribe, takenAlong);
  const running = useOpenFrame();
  const clock = useClockFar();
  const alone = !signal && stage !== "none";
  const offered = newer && !running;
  const behind = passed && !running;
  useReloadUnseen(behind);
  const any = trouble !== null || alone || offered || behind || clock !== null;
  if (!any && refused.length + unread.length + aside.length === 0) return null;
  return <NoticeList {...{ alone, offered, behind, clock, trouble, refused, unread, aside }} />;
}

/** A page that nobody looks at is loaded anew by itself, unless something half typed would be lost. */
function useReloadUnseen(behind: boolean): void {
  useEffect(() => {
    if (!behind) return;
    const look = () => {
      if (document.visibilityState === "hidden" && document.querySelector("form, [role=dialog]") === null)
        window.location.reload();
    };
    look();
    document.addEventListener("visibilitychange", look);
    return () => document.removeEventListener("visibilitychange", look);
  }, [behind]);
}

/**
 * What is wrong with the server, by its own words, and how much waits for it. It comes in the midst of a frame: then it
 * stands beneath the screen, and over Run's own, because nothing there may move under a finger.
 */
export function ServerTrouble({ beneath = false }: { beneath?: boolean }) {
  const waiting = useWaiting().filter((doc) => !doc.waiting?.refused).length;
  const { why } = useExchange();
  const running = useOpenFrame();
  if (why === null || beneath !== Boolean(running)) return null;
  return (
    <section className={beneath ? "notices notices-beneath" : "notices"} aria-label={say.server}>
      <p className="notice" role="status">
        <span>
          {why} {say.waits(waiting)}
        </span>
        <Button variant="quiet" size="sm" onClick={() => exchange()}>
          {words.trouble.again}
        </Button>
      </p>
    </section>
  );
}

/** How far this device's clock is ahead of the server's [s], where it matters; the demo's day is made up. */
function useClockFar(): number | null {
  const off = useSyncExternalStore(onClock, clockOff);
  const { demo, known, practice } = useSession();
  if (off === null || !known || demo || practice || !isFar(off)) return null;
  return Math.round(off.ahead / 1000);
}
