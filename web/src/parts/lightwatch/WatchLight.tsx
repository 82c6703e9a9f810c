import type { ReactNode } from "react";
import { Button } from "react-bootstrap";
import type { Weight } from "../../questions/lightWatch";
import {
  isMine,
  isWatching,
  type LightWatch,
  startWatching,
  stopWatching,
  useLightWatch,
} from "../../state/lightWatch";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";
import { watchWords as say } from "../../words/watch";
import "./lightwatch.css";

/** What the light is now against the metering [stops], with its sd, and what says so. */
export interface Known {
  stops: number;
  sd: number;
  weights: Weight[];
}

/** One tap to watch the light; then what is seen of it, how well, and one tap to stop. */
export function WatchLight({ known, children }: { known: Known | null; children?: ReactNode }) {
  const watch = useLightWatch();
  const now = useNow(2000);
  const open = watch !== null && isWatching(watch, now);
  const before = watch !== null;
  const elsewhere = open && !isMine();
  return (
    <div className="light-watch" data-watching={open || undefined} role="group" aria-label={say.title}>
      <p className="light-watch-line" role="status">
        {open ? (
          <>
            <span className="light-watch-eye" data-sight={watch.sight} aria-hidden="true" />
            <span>
              <strong>{elsewhere && watch.sight === "watching" ? say.sight.elsewhere : say.sight[watch.sight]}</strong>
              {watch.sight !== "starting" && <span data-testid="light-now"> {lightText(known)}</span>}
            </span>
          </>
        ) : (
          <span className="quiet">{endedText(watch)}</span>
        )}
      </p>
      {open ? (
        <Button variant="quiet" onClick={() => stopWatching()}>
          {say.stop}
        </Button>
      ) : (
        <span className="light-watch-start">
          <Button variant="quiet" title={say.startWhy} onClick={() => void startWatching("camera")}>
            {before ? say.again : say.start}
          </Button>
          <span className="quiet">{say.or}</span>
          <Button variant="link" className="plain-link" onClick={() => void startWatching("simulated")}>
            {say.simulated}
          </Button>
        </span>
      )}
      {open && watch.by === "simulated" && <p className="quiet mb-0">{say.simulatedNow}</p>}
      {children}
      {open && (
        <details className="light-watch-more">
          <summary>{say.more}</summary>
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
          <p className="quiet mb-0">{say.privacy}</p>
          <p className="quiet mb-0">{say.power}</p>
        </details>
      )}
    </div>
  );
}

/** Why it does not watch, where that needs a word. */
function endedText(watch: LightWatch | null): string {
  if (watch === null) return say.startWhy;
  if (watch.sight !== "ended") return say.sight.ended;
  return watch.why === null ? say.sight.ended : say.why[watch.why];
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
