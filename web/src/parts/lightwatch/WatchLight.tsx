import { type ReactNode, useState, useSyncExternalStore } from "react";
import { Button } from "react-bootstrap";
import { subscribe, takenAlong } from "../../engine/taken";
import {
  isMine,
  isWatching,
  type LightWatch,
  startWatching,
  stopWatching,
  useLightWatch,
} from "../../state/lightWatch";
import { useSession } from "../../state/session";
import { lazily } from "../../ui/lazily";
import { useNow } from "../../ui/useNow";
import { watchWords as say } from "../../words/watch";
import { type Known, lightText } from "./known";
import "./lightwatch.css";

const HowKnown = lazily(async () => (await import("./HowKnown")).HowKnown, true);

/** One tap to watch the light; then what is seen of it, how well, and one tap to stop. `question` is what somebody has to say. */
interface Props {
  known: Known | null;
  question?: ReactNode;
  children?: ReactNode;
}

export function WatchLight(props: Props) {
  // A phone would watch the room that a dry run is played in.
  return useSession().practice ? null : <Watching {...props} />;
}

function Watching({ known, question, children }: Props) {
  const watch = useLightWatch();
  const now = useNow(5000);
  const [more, setMore] = useState(false);
  const open = watch !== null && isWatching(watch, now);
  return (
    <div className="light-watch" data-watching={open || undefined} role="group" aria-label={say.title}>
      {open ? (
        <>
          <Button variant="quiet" className="light-watch-now" onClick={() => setMore(true)}>
            <span className="light-watch-eye" data-sight={watch.sight} aria-hidden="true" />
            <span role="status">
              <strong>{watch.sight === "starting" ? <Waits watch={watch} /> : sightText(watch)}</strong>
              {watch.sight !== "starting" && <span data-testid="light-now"> {lightText(known)}</span>}
            </span>
          </Button>
          {more && (
            <HowKnown known={known} simulated={watch.by === "simulated"} onClose={() => setMore(false)}>
              {children}
            </HowKnown>
          )}
          <Button variant="quiet" onClick={() => stopWatching()} aria-label={say.stop}>
            {say.stopShort}
          </Button>
        </>
      ) : (
        <>
          {endedText(watch) !== null && (
            <p className="quiet mb-0 light-watch-why" role="status">
              {endedText(watch)}
            </p>
          )}
          <Button variant="quiet" title={say.startWhy} onClick={() => void startWatching("camera")}>
            {say.start}
          </Button>
          <Button
            variant="link"
            className="plain-link"
            aria-label={say.simulatedStart}
            onClick={() => void startWatching("simulated")}
          >
            {say.simulated}
          </Button>
        </>
      )}
      {question}
    </div>
  );
}

/** What a watch that starts waits for, and how far that has come. */
function Waits({ watch }: { watch: LightWatch }) {
  const { stage, got, of } = useSyncExternalStore(subscribe, takenAlong);
  if (watch.waits !== "core") return say.sight.starting;
  if (stage === "fetching" && of !== null && isMine())
    return say.sight.fetching(Math.min(100, Math.round((got / of) * 100)), megabytes(of));
  return say.sight.core;
}

function megabytes(bytes: number): string {
  return `${(bytes / 1e6).toFixed(0)} MB`;
}

function sightText({ sight, by }: LightWatch): string {
  if (sight !== "watching") return say.sight[sight];
  if (!isMine()) return say.sight.elsewhere;
  return by === "simulated" ? say.sight.watchingSimulated : say.sight.watching;
}

/** Why it does not watch, where that needs a word. */
function endedText(watch: LightWatch | null): string | null {
  if (watch === null || watch.why === null) return null;
  return watch.sight === "ended" ? say.why[watch.why] : null;
}
