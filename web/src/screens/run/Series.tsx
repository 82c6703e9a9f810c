import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import type { Schemas } from "../../api/client";
import { askSeries } from "../../questions/checklist";
import type { Armed, Queue } from "../../state/armed";
import { takeSeries } from "../../state/running";
import { Fault } from "../../ui/Fault";
import { NumberField } from "../../ui/NumberField";
import { typed } from "../../ui/typed";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";
import { clockIn } from "../../words/clock";
import { runWords } from "../../words/run";
import { markText, signedStops, timeText } from "../../words/times";
import { instead } from "./noBulb";

const WAYS = ["bracket", "repeat", "split", "lucky"] as const;

/** Safety brackets, repeats, splits, or the lucky series: what comes after what, and when. */
export function SeriesDialog({ armed, onClose }: { armed: Armed; onClose: () => void }) {
  const say = runWords.series;
  const parts = instead(armed);
  const [way, setWay] = useState<Queue["way"]>(armed.queue?.way ?? (parts === null ? "bracket" : "split"));
  const [count, setCount] = useState(String(armed.queue?.frames.length ?? parts ?? 3));
  const [spacing, setSpacing] = useState("1");
  const [answer, setAnswer] = useState<{ to: string; series: Schemas["SeriesAnswer"] } | null>(null);
  const [fault, setFault] = useState<unknown>(null);
  const question = {
    seconds: armed.plan.answer.set_seconds,
    way: way === "lucky" ? ("repeat" as const) : way,
    count: Math.round(typed(count) ?? 0),
    spacing_stops: typed(spacing) ?? 0,
    dial_limit: armed.plan.dial_limit,
    step: armed.plan.reading.step,
    noise_reduction: armed.list?.noise_reduction ?? armed.list?.body?.noise_reduction === "on",
    handling_seconds: 5,
  };
  const to = JSON.stringify(question);
  // Another count's frames do not stand under this one.
  const shown = answer?.to === to ? answer.series : null;
  const ask = async () => {
    try {
      const found = await askSeries(question);
      setAnswer({ to, series: found });
      setFault(null);
      return found;
    } catch (error) {
      setAnswer(null);
      setFault(error);
      return null;
    }
  };
  const take = async () => {
    const found = await ask();
    if (!found) return;
    takeSeries(armed, { way, frames: found.frames, at: 0, burst: found.burst, kept: 0, dropped: 0 });
    onClose();
  };
  return (
    <Modal show onHide={onClose} centered scrollable aria-labelledby="series-title">
      <Modal.Header closeButton closeLabel={words.close}>
        <Modal.Title id="series-title">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        {WAYS.map((entry) => (
          <Form.Check
            key={entry}
            type="radio"
            name="series-way"
            id={`series-${entry}`}
            className="choice"
            checked={way === entry}
            onChange={() => setWay(entry)}
            label={
              <>
                <strong>{say.ways[entry]}</strong> <span>{say.why[entry]}</span>
              </>
            }
          />
        ))}
        <div className="pair">
          <NumberField id="series-count" label={say.count} value={count} onChange={setCount} />
          {way === "bracket" && (
            <NumberField id="series-spacing" label={say.spacing} value={spacing} onChange={setSpacing} />
          )}
        </div>
        <Fault error={fault} />
        {shown && (
          <>
            <ol className="series-frames">
              {shown.frames.slice(0, 12).map((frame, place) => (
                <li key={place}>
                  <strong>{frame.mark ? markText(frame.mark) : timeText(frame.seconds)}</strong>{" "}
                  <span className="quiet">
                    {words.staff.stops(signedStops(frame.stops))},{" "}
                    {place === 0 ? say.atOnce : say.after(timeText(frame.opens_at))}
                  </span>
                </li>
              ))}
            </ol>
            <p className="mb-0">
              {say.total(timeText(shown.total_seconds))} {shown.burst && say.burst}
              {shown.more_light_stops > 0 && say.moreLight(shown.more_light_stops.toFixed(1))}
            </p>
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={() => void ask()}>
          {say.show}
        </Button>
        <Button variant="signal" onClick={() => void take()}>
          {say.take}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

/** Where the queue stands, and by the clock when each frame could open and the camera is free again. */
export function QueueLine({ queue, busyUntil, zone }: { queue: Queue; busyUntil: string | null; zone: string }) {
  const say = runWords.series;
  const now = useNow(1000);
  const next = queue.frames[queue.at];
  if (queue.way === "lucky") return <p className="queue-line">{say.tally(queue.kept, queue.dropped)}</p>;
  if (queue.burst === true)
    return (
      <p className="queue-line">
        {say.burstOf(
          queue.frames.map((frame) => (frame.mark ? markText(frame.mark) : timeText(frame.seconds))),
          timeText(Math.ceil(queue.frames.at(-1)?.busy_until ?? 0)),
        )}
      </p>
    );
  const begins = Math.max(now, busyUntil === null ? 0 : Date.parse(busyUntil));
  const clock = (seconds: number) => clockIn(begins + (seconds - (next?.opens_at ?? 0)) * 1000, zone, "seconds");
  return (
    <div>
      <p className="queue-line">
        {say.at(queue.at + 1, queue.frames.length)}
        {next && next.stops !== 0 && `, ${words.staff.stops(signedStops(next.stops))}`}
      </p>
      <ol className="series-frames" start={queue.at + 1}>
        {queue.frames.slice(queue.at, queue.at + 4).map((frame) => (
          <li key={frame.opens_at}>
            {say.clock(clock(frame.opens_at), clock(frame.closes_at))}
            {frame.busy_until > frame.closes_at && <span className="quiet"> {say.free(clock(frame.busy_until))}</span>}
          </li>
        ))}
      </ol>
    </div>
  );
}
