import { useEffect, useSyncExternalStore } from "react";
import { Button } from "react-bootstrap";
import { Refused } from "../api/client";
import { clockOff, onClock } from "../api/clock";
import { subscribe, takenAlong, takeNewer } from "../engine/takeAlong";
import { useOpenFrame } from "../state/frames";
import { asides, dropRefused, everythingKept, fileOf, forgetBroken, putBack, sendAgain } from "../state/keeping";
import { exchange, useExchange } from "../state/outbox";
import { useSession } from "../state/session";
import type { Doc } from "../state/shelf";
import { broken, useTrouble, useWaiting } from "../state/store";
import { faultText } from "../ui/faultText";
import { saveAs } from "../ui/saveAs";
import { words } from "../words";
import { dateAndClock } from "../words/clock";
import { ITS_OWN } from "../words/zone";

const say = words.keeping;

async function saveEverything(): Promise<void> {
  saveAs("jackstaff-kept.json", await everythingKept());
}

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
  if (
    trouble === null &&
    !alone &&
    !offered &&
    !behind &&
    clock === null &&
    refused.length + unread.length + aside.length === 0
  )
    return null;
  return (
    <section className="notices" aria-label={say.title}>
      {alone && (
        <p className="notice" role="status">
          {words.takeAlong.alone}
        </p>
      )}
      {offered && (
        <p className="notice" role="status">
          <span>{words.takeAlong.newer}</span>
          <Button variant="quiet" size="sm" onClick={() => void takeNewer()}>
            {words.takeAlong.takeNewer}
          </Button>
        </p>
      )}
      {behind && (
        <p className="notice" role="status">
          <span>{words.takeAlong.passed}</span>
          <Button variant="quiet" size="sm" onClick={() => window.location.reload()}>
            {words.takeAlong.reload}
          </Button>
        </p>
      )}
      {clock !== null && (
        <p className="notice" role="status">
          {words.clock.off(clock)}
        </p>
      )}
      {trouble && (
        <p className="notice" role="status">
          <span>{say.trouble[trouble]}</span>
          <Button variant="quiet" size="sm" onClick={() => void saveEverything()}>
            {say.save}
          </Button>
        </p>
      )}
      {refused.map((doc) => (
        <RefusedNotice key={`${doc.kind} ${doc.id}`} doc={doc} />
      ))}
      {unread.map(({ id, content }) => (
        <p className="notice" key={id} role="status">
          <span>{say.broken(say.kinds[content.kind] ?? content.kind)}</span>
          <Button variant="quiet" size="sm" onClick={() => saveAs("jackstaff-set-aside.json", fileOf(content))}>
            {say.saveIt}
          </Button>
          <Button variant="quiet" size="sm" onClick={() => void forgetBroken(id)}>
            {say.letGo}
          </Button>
        </p>
      ))}
      {aside.map(({ id, content }) => (
        <p className="notice" key={id} role="status">
          <span>
            {say.aside(nameOf(content.kind, content.content), dateAndClock(Date.parse(content.changed_at), ITS_OWN))}
          </span>
          <Button variant="quiet" size="sm" onClick={() => void putBack(id, content)}>
            {say.putBack}
          </Button>
          <Button variant="quiet" size="sm" onClick={() => void asides.remove(id)}>
            {say.letGo}
          </Button>
        </p>
      ))}
    </section>
  );
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

/** Nearer than this nobody is misled [ms]. */
const FAR_MS = 20_000;

/** How far this device's clock is ahead of the server's [s], where it matters; the demo's day is made up. */
function useClockFar(): number | null {
  const off = useSyncExternalStore(onClock, clockOff);
  const { demo, known, practice } = useSession();
  if (off === null || !known || demo || practice || Math.abs(off.ahead) < FAR_MS + off.within) return null;
  return Math.round(off.ahead / 1000);
}

/** The server would not take it: why, and three ways out. */
function RefusedNotice({ doc }: { doc: Doc }) {
  const why = faultText(new Refused(422, doc.waiting?.refused ?? []));
  return (
    <p className="notice" role="alert">
      <span>
        {say.refused(nameOf(doc.kind, doc.content))} {why}
      </span>
      <Button variant="quiet" size="sm" onClick={() => void sendAgain(doc)}>
        {words.trouble.again}
      </Button>
      <Button variant="quiet" size="sm" onClick={() => void dropRefused(doc)}>
        {say.drop}
      </Button>
      <Button variant="quiet" size="sm" onClick={() => saveAs("jackstaff-refused.json", fileOf(doc.content))}>
        {say.saveIt}
      </Button>
    </p>
  );
}

/** What it is, and its own name where it has one. */
function nameOf(kind: string, content: unknown): string {
  const inner = (content ?? {}) as { name?: string; look?: string; note?: string; item?: { name?: string } };
  const name = inner.name ?? inner.item?.name ?? inner.look ?? inner.note;
  const sort = say.kinds[kind] ?? kind;
  return name ? say.named(sort, name) : sort;
}
