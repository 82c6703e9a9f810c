import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Link, useLocation, useSearchParams } from "wouter";
import { useSearch } from "../../questions/log";
import { type Frame, useFrames } from "../../state/frames";
import { useExchange } from "../../state/outbox";
import { useSession } from "../../state/session";
import { useWaiting } from "../../state/store";
import { Fault } from "../../ui/Fault";
import { useFileDrop } from "../../ui/useFileDrop";
import { words } from "../../words";
import { dryRunWords } from "../../words/dryRun";
import { logWords } from "../../words/log";
import { AddFrame } from "./AddFrame";
import { dayText } from "./frameText";
import { JoinPictures } from "./JoinPictures";
import { Row } from "./Row";
import { SearchBar } from "./SearchBar";
import { searchOf } from "./searching";

const PAGE = 50;
const say = logWords;

/** What was done and what really happened, the newest first, by day. */
export function FramesPage({ chosen = null }: { chosen?: string | null }) {
  const [limit, setLimit] = useState(PAGE);
  const [params, setParams] = useSearchParams();
  const [picked, setPicked] = useState<string[]>([]);
  const [adding, setAdding] = useState(false);
  const [files, setFiles] = useState<File[] | null>(null);
  const { practice } = useSession();
  const search = searchOf(params);
  const [, navigate] = useLocation();
  const searching = Object.keys(search).length > 0;
  const log = useLog(limit, searching ? search : null);
  const sorted = params.has("sort") && params.get("sort") !== "newest";

  const pick = (id: string) => {
    const both = picked.includes(id) ? picked.filter((chosen) => chosen !== id) : [...picked, id].slice(-2);
    setPicked(both);
  };
  const dropped = (list: FileList | null) => {
    const chosen = [...(list ?? [])].filter((file) => file.type === "image/jpeg" || /\.jpe?g$/i.test(file.name));
    if (chosen.length > 0) setFiles(chosen);
  };

  useFileDrop(dropped);

  if (log.loading) return <p className="waiting">{say.loading}</p>;
  return (
    <div className="log-frames">
      {chosen === null && (
        <header className="heading-line log-head">
          <h1>{say.title}</h1>
          <span className="quiet" data-testid="log-count">
            {say.count(log.count)}
          </span>
        </header>
      )}
      {!log.guest && (log.count > 0 || searching) && (
        <SearchBar params={params} setParams={(next) => setParams(next, { replace: true })} />
      )}
      <Fault error={log.error} again={log.again} />
      {log.coming > 0 && (
        <p className="quiet" role="status">
          {say.coming(log.coming)}
        </p>
      )}
      {log.guest && log.frames.length > 0 && <p className="quiet">{practice ? dryRunWords.page.log : say.guest}</p>}
      {!log.guest && log.waiting > 0 && <p className="quiet">{say.waiting(log.waiting)}</p>}
      {log.frames.length === 0 && (
        <div className="empty">
          <h2>{searching ? say.noneFit : say.empty}</h2>
          {!searching && <p>{say.emptyHint}</p>}
          <Button variant="signal" onClick={() => (searching ? setParams({}) : navigate("/"))}>
            {searching ? say.clear : words.toBench}
          </Button>
        </div>
      )}
      {picked.length > 0 && (
        <div className="log-picked" role="status">
          {picked.length === 2 ? (
            <Link className="btn btn-signal" to={`/log/compare/${picked[0]}/${picked[1]}`}>
              {say.compare.open}
            </Link>
          ) : (
            <span>{say.compare.hint}</span>
          )}
          <Button variant="quiet" onClick={() => setPicked([])}>
            {say.compare.drop}
          </Button>
        </div>
      )}
      {(sorted ? [["", log.frames] as [string, Frame[]]] : byDay(log.frames)).map(([day, frames]) => (
        <section key={day} className="log-day" aria-label={day || say.title}>
          {day && <h2>{day}</h2>}
          <ol>
            {frames.map((frame) => (
              <Row
                key={frame.id}
                frame={frame}
                picked={picked.includes(frame.id)}
                onPick={chosen === null ? () => pick(frame.id) : null}
                chosen={frame.id === chosen}
              />
            ))}
          </ol>
        </section>
      ))}
      {log.frames.length < log.count && (
        <Button variant="quiet" onClick={() => (searching ? log.next() : setLimit(limit + PAGE))}>
          {say.more}
        </Button>
      )}
      {chosen === null && (
        <nav className="log-foot quiet-actions" aria-label={say.title}>
          <Form.Label className="btn btn-quiet mb-0" title={say.join.drop}>
            {say.join.open}
            <input
              type="file"
              multiple
              accept="image/jpeg,.jpg,.jpeg"
              className="visually-hidden"
              data-testid="log-pictures"
              onChange={(event) => {
                dropped(event.target.files);
                event.target.value = "";
              }}
            />
          </Form.Label>
          <Button variant="quiet" onClick={() => setAdding(true)}>
            {say.add.open}
          </Button>
          <Link to="/log/lessons" className="plain-link">
            {say.pages.lessons}
          </Link>
          <Link to="/log/practice" className="plain-link">
            {say.pages.practice}
          </Link>
          <Link to="/log/files" className="plain-link">
            {say.pages.files}
          </Link>
        </nav>
      )}
      {adding && <AddFrame onClose={() => setAdding(false)} />}
      {files && <JoinPictures files={files} onClose={() => setFiles(null)} />}
    </div>
  );
}

/** The log of this browser, or what fits a search of the account's. */
function useLog(limit: number, search: ReturnType<typeof searchOf> | null) {
  const { account, signedIn } = useSession();
  const { head, coming } = useExchange();
  const own = useFrames(limit);
  const waiting = useWaiting().filter((doc) => doc.kind === "frame" && doc.content !== null);
  const found = useSearch(search, account, head);
  const frames = search ? (found.data?.pages.flatMap((page) => page.frames) ?? []) : own.frames;
  return {
    frames,
    count: search ? (found.data?.pages[0]?.count ?? 0) : own.count,
    loading: search ? found.isPending && account !== null : own.loading,
    guest: !signedIn,
    waiting: signedIn ? waiting.filter((doc) => (doc.content as Frame).state !== "open").length : 0,
    coming: signedIn ? coming : 0,
    error: search ? found.error : null,
    again: () => void found.refetch(),
    next: () => void found.fetchNextPage(),
  };
}

function byDay(frames: Frame[]): [string, Frame[]][] {
  const days = new Map<string, Frame[]>();
  for (const frame of frames) {
    const day = dayText(frame);
    days.set(day, [...(days.get(day) ?? []), frame]);
  }
  return [...days];
}
