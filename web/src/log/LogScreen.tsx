import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Button } from "react-bootstrap";
import { useNavigate } from "react-router";
import { answer, api, Refused } from "../api/client";
import { owner } from "../shell/owner";
import { say } from "../shell/say";
import { useMeasured } from "../shell/useMeasured";
import { SmallStaff } from "../staff/SmallStaff";
import { words } from "../words";
import { signedStops, timeText } from "../words/times";
import { drop, type Frame, put } from "./outbox";
import { useFrames } from "./useFrames";
import "./log.css";

const PAGE = 50;

/** What was done and what really happened, the newest first, by day. */
export function LogScreen() {
  const [limit, setLimit] = useState(PAGE);
  const log = useFrames(limit);
  const navigate = useNavigate();
  const remove = useRemove();

  if (log.loading) return <p className="waiting">{words.log.loading}</p>;
  return (
    <div className="log">
      <header className="heading-line">
        <h1>{words.log.title}</h1>
        <span className="quiet">{words.log.count(log.count)}</span>
      </header>
      {log.error && (
        <p className="fault" role="alert">
          {log.error.message || words.trouble.unreachable}
        </p>
      )}
      {log.guest && log.frames.length > 0 && <p className="quiet">{words.log.guest}</p>}
      {!log.guest && log.waiting > 0 && <p className="quiet">{words.log.waiting(log.waiting)}</p>}
      {log.frames.length === 0 && (
        <div className="empty">
          <h2>{words.log.empty}</h2>
          <p>{words.log.emptyHint}</p>
          <Button variant="signal" onClick={() => void navigate("/")}>
            {words.run.toBench}
          </Button>
        </div>
      )}
      {byDay(log.frames).map(([day, frames]) => (
        <section key={day} className="log-day" aria-label={day}>
          <h2>{day}</h2>
          <ol>
            {frames.map((frame) => (
              <Row key={frame.id} frame={frame} onRemove={() => void remove(frame)} />
            ))}
          </ol>
        </section>
      ))}
      {log.more && (
        <Button variant="quiet" onClick={() => setLimit(limit + PAGE)}>
          {words.log.more}
        </Button>
      )}
    </div>
  );
}

function Row({ frame, onRemove }: { frame: Frame; onRemove: () => void }) {
  const [stage, size] = useMeasured<HTMLDivElement>();
  const { reading, settings, answer: planned } = frame;
  const base =
    reading.ev100 != null
      ? `EV ${reading.ev100}`
      : [reading.shutter, `f/${reading.aperture}`, `ISO ${reading.iso}`].join(" ");
  return (
    <li className="log-row">
      <time className="log-when" dateTime={frame.opened_at}>
        {clock(frame.opened_at)}
      </time>
      <div className="log-set">
        <strong>
          f/{settings.aperture} ISO {settings.iso}
        </strong>
        <span className="quiet">{words.log.base(base)}</span>
      </div>
      <div className="log-stack">
        <span>{frame.stack.map((glass) => glass.name).join(" + ") || words.log.bare}</span>
        {frame.note && <span className="quiet">{frame.note}</span>}
      </div>
      <div className="log-staff" ref={stage}>
        {size && (
          <SmallStaff
            answer={planned}
            stack={frame.stack}
            settings={settings}
            dialLimit={frame.dial_limit}
            actual={frame.actual_seconds}
            width={size.width}
          />
        )}
      </div>
      <div className="log-times">
        <span className="quiet">
          {words.log.columns.planned} {timeText(planned.set_seconds)}
        </span>
        <strong>
          {frame.state === "open" ? words.log.running : timeText(Math.max(frame.actual_seconds ?? 0, 0.001))}
        </strong>
      </div>
      <div className="log-error">{outcome(frame)}</div>
      <Button variant="quiet" size="sm" onClick={onRemove} disabled={frame.state === "open"}>
        {words.log.remove}
      </Button>
    </li>
  );
}

function outcome(frame: Frame): string {
  if (frame.state === "aborted") return words.log.aborted;
  if (!frame.error) return "";
  if (frame.error.verdict === "on_time") return words.log.onTime;
  const stops = signedStops(Math.abs(frame.error.stops)).replace("+", "");
  return frame.error.stops > 0 ? words.log.brighter(stops) : words.log.darker(stops);
}

/** Removing is at once and can be undone: the frame comes back under its own key. */
function useRemove() {
  const client = useQueryClient();
  return async (frame: Frame) => {
    if (owner() !== null) {
      try {
        await answer(api.DELETE("/api/frames/{key}", { params: { path: { key: frame.id } } }));
      } catch (error) {
        // Never sent, so there is nothing to forget there; anything else stays as it is and says why.
        if (!(error instanceof Refused && error.status === 404)) {
          say({ text: error instanceof Refused ? error.message : words.trouble.unreachable });
          return;
        }
      }
    }
    drop(frame.id);
    await client.invalidateQueries({ queryKey: ["frames"] });
    say({ text: words.log.removed, action: { label: words.log.undo, act: () => put(frame, owner()) } });
  };
}

function byDay(frames: Frame[]): [string, Frame[]][] {
  const days = new Map<string, Frame[]>();
  for (const frame of frames) days.set(day(frame.opened_at), [...(days.get(day(frame.opened_at)) ?? []), frame]);
  return [...days];
}

const DAY = new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long", year: "numeric" });
const CLOCK = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });

function day(instant: string): string {
  return DAY.format(new Date(instant));
}

function clock(instant: string): string {
  return CLOCK.format(new Date(instant));
}
