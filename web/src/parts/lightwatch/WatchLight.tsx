import { type ReactNode, useState, useSyncExternalStore } from "react";
import { Button, Modal } from "react-bootstrap";
import { subscribe, takenAlong } from "../../engine/takeAlong";
import type { Step, Weight } from "../../questions/lightWatch";
import {
  isMine,
  isWatching,
  type LightWatch,
  startWatching,
  stopWatching,
  useLightWatch,
} from "../../state/lightWatch";
import { useSession } from "../../state/session";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";
import { timeText } from "../../words/times";
import { watchWords as say } from "../../words/watch";
import "./lightwatch.css";

/** What the light is now against the metering [stops], with its sd, and what says so. */
export interface Known {
  stops: number;
  sd: number;
  weights: Weight[];
  steps: Step[];
  /** What the instants of the steps are counted from. */
  from: "metering" | "opening";
}

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

interface HowKnownProps {
  known: Known | null;
  simulated: boolean;
  onClose: () => void;
  children: ReactNode;
}

/** What says how bright it is, with the weight of each; and what becomes of the pictures. */
function HowKnown({ known, simulated, onClose, children }: HowKnownProps) {
  return (
    <Modal show onHide={onClose} centered aria-labelledby="light-watch-title">
      <Modal.Header closeButton closeLabel={words.entry.cancel}>
        <Modal.Title id="light-watch-title">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>{lightText(known)}</p>
        {known && known.weights.length > 0 && (
          <dl className="light-weights" aria-label={say.weights}>
            {known.weights.map(({ source, share, sd }) => (
              <div key={source}>
                <dt>{say.source[source]}</dt>
                <dd>{say.weight(Math.round(share * 100), sureText(sd))}</dd>
              </div>
            ))}
          </dl>
        )}
        {known && known.steps.length > 0 && (
          <ul className="light-steps">
            {known.steps.slice(-MOST_STEPS).map((step) => (
              <li key={step.at_seconds}>{stepText(step, known.from)}</li>
            ))}
          </ul>
        )}
        {children}
        <p>{simulated ? say.simulatedNow : say.privacy}</p>
        {!simulated && <p className="mb-0">{say.power}</p>}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="signal" onClick={onClose}>
          {words.bench.meteredWith.done}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

const MOST_STEPS = 5;

function stepText({ at_seconds, stops }: Step, from: Known["from"]): string {
  const size = words.staff.stops(Math.abs(stops).toFixed(1));
  const when = timeText(Math.max(1, Math.round(Math.abs(at_seconds))));
  return say.step(
    size,
    stops > 0,
    from === "metering" ? say.afterMetering(when) : say.aroundOpening(when, at_seconds < 0),
  );
}

/** Why it does not watch, where that needs a word. */
function endedText(watch: LightWatch | null): string | null {
  if (watch === null || watch.why === null) return null;
  return watch.sight === "ended" ? say.why[watch.why] : null;
}

function lightText(known: Known | null): string {
  if (!known) return say.unmetered;
  const sure = sureText(known.sd);
  // A tenth is as fine as a phone sees.
  if (Math.abs(known.stops) < 0.05) return say.same(sure);
  return say.since(words.staff.stops(Math.abs(known.stops).toFixed(1)), known.stops > 0, sure);
}

function sureText(sd: number): string {
  return words.staff.stops(Math.max(0.1, 2 * sd).toFixed(1));
}
