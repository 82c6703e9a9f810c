import { Button } from "react-bootstrap";
import { Refused } from "../api/client";
import { dropRefused, forgetBroken, putBack, sendAgain } from "../state/keeping";
import { type Aside, asides, everythingKept, fileOf } from "../state/kept";
import type { Doc } from "../state/shelf";
import type { Broken, Trouble } from "../state/store";
import { faultText } from "../ui/faultText";
import { saveAs } from "../ui/saveAs";
import { words } from "../words";
import { dateAndClock } from "../words/clock";
import { ITS_OWN } from "../words/zone";

const say = words.keeping;

/** Everything that is to be said at once. */
export interface Said {
  alone: boolean;
  /** Whether a newer build waits to be taken. */
  offered: boolean;
  /** Whether another tab took a newer build. */
  behind: boolean;
  /** How far this device's clock is ahead of the server's [s], where it matters. */
  clock: number | null;
  trouble: Trouble;
  refused: Doc[];
  unread: readonly { id: string; content: Broken }[];
  aside: readonly { id: string; content: Aside }[];
}

/** What a person has to know about what is kept, each with its ways out. */
export function NoticeList({ alone, offered, behind, clock, trouble, refused, unread, aside }: Said) {
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
          <Button
            variant="quiet"
            size="sm"
            onClick={() => void import("../engine/takeAlong").then(({ takeNewer }) => takeNewer())}
          >
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

async function saveEverything(): Promise<void> {
  saveAs("jackstaff-kept.json", await everythingKept());
}
