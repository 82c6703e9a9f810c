import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { leaveDoubts } from "../../parts/leaving/leaveText";
import type { Tide } from "../../questions/light";
import { change, instantNear, isTouched, type Outing, span } from "../../state/outings";
import { crossingsAt } from "../../state/planning";
import { ClockField } from "../../ui/ClockField";
import { Fault } from "../../ui/Fault";
import { say as toast } from "../../ui/say";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";
import { bagWords } from "../../words/bag";
import { clockIn, clockOf, dateOf } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { dateIn, ITS_OWN, wallTime } from "../../words/zone";
import { leaveOf } from "./planSentences";

interface Props {
  outing: Outing;
  tide: Tide | undefined;
  error: Error | null;
  onRests: () => void;
}

/** Whether water has anything to do with this outing. */
function hasWater(outing: Outing): boolean {
  return outing.waters.length > 0 || outing.floods_at_m !== null || outing.hazards.includes("tide");
}

/** When the water closes the way back; an unknown is shown as unknown. */
export function Leave({ outing, tide, error, onRests }: Props) {
  const say = outingWords;
  if (!hasWater(outing)) return null;
  const leaveBy = tide?.leave_by == null ? null : Date.parse(tide.leave_by);
  const [doubt] = tide ? leaveDoubts(tide, outing.zone) : [];
  return (
    <section className="outing-leave" aria-label={say.leaving} data-unknown={leaveBy === null || undefined}>
      {error ? (
        <Fault error={error} />
      ) : (
        <p className="outing-time outing-time-harm">
          <span>{say.leaveBy}</span>
          {leaveBy === null ? <em>{leaveOf(outing, tide)}</em> : <strong>{clockIn(leaveBy, outing.zone)}</strong>}
        </p>
      )}
      {leaveBy !== null && leaveBy <= span(outing)[0] && <p className="advice-harm">{words.leaving.tooLate}</p>}
      <p className="outing-leave-why">
        {doubt && <span>{doubt} </span>}
        <Button variant="quiet" onClick={onRests}>
          {words.leaving.why}
        </Button>
      </p>
    </section>
  );
}

/** What the time to leave rests on, what it leaves open, and the caution that goes with it. */
export function LeaveRests({
  outing,
  outings,
  tide,
}: {
  outing: Outing;
  outings: readonly Outing[];
  tide: Tide | undefined;
}) {
  const say = outingWords;
  const seen = crossingsAt(outing, outings).filter(({ level_m }) => level_m === outing.floods_at_m).length;
  return (
    <>
      <p className="advice-harm outing-caution">{say.caution}</p>
      <p>{leaveOf(outing, tide)}</p>
      {tide && leaveDoubts(tide, outing.zone).map((line) => <p key={line}>{line}</p>)}
      {tide?.leave_by != null && (
        <p className="quiet">
          {say.leaveFrom(
            outing.waters.map(({ time, height_m }) => `${clockOf(time)} ${height_m.toFixed(1)} m`),
            outing.waters.some(({ source }) => source === "simulated"),
            outing.floods_at_m ?? 0,
            outing.walk_minutes,
            outing.margin_minutes,
            isTouched(outing) ? dateOf(dateIn(Date.parse(outing.changed_at), ITS_OWN)) : null,
          )}
        </p>
      )}
      {seen > 0 && <p className="quiet">{words.leaving.watchedCount(seen)}</p>}
      {tide && outing.floods_at_m !== null && <Watched outing={outing} tide={tide} />}
    </>
  );
}

/** A flood that somebody watched is kept with the place. */
function Watched({ outing, tide }: { outing: Outing; tide: Tide }) {
  const say = words.leaving;
  const now = useNow(60_000);
  const [time, setTime] = useState<string | null>(null);
  if (time === null)
    return (
      <Button variant="quiet" size="sm" onClick={() => setTime(wallTime(now, outing.zone))}>
        {say.watched}
      </Button>
    );
  const crossing = crossingOf(outing, tide, time);
  const keep = () => {
    if (!crossing) return;
    const undo = change(outing, { crossings: [crossing, ...outing.crossings].slice(0, 20) });
    toast({ text: say.watchedKept(clockOf(time)), action: { label: bagWords.undo, act: undo } });
    setTime(null);
  };
  return (
    <div className="watched-flood">
      <Form.Group controlId="watched-at">
        <Form.Label>{say.watchedAt}</Form.Label>
        <ClockField
          value={time}
          onValue={(value) => {
            if (value) setTime(value);
          }}
        />
      </Form.Group>
      <p className="quiet">{crossing ? say.watchedWhy : say.watchedNeeds}</p>
      <Button variant="quiet" disabled={!crossing} onClick={keep}>
        {say.watchedKeep}
      </Button>
      <Button variant="quiet" onClick={() => setTime(null)}>
        {words.close}
      </Button>
    </div>
  );
}

/** The flood around a clock time, where its low and its high water are entered. */
function crossingOf(outing: Outing, tide: Tide, time: string): Outing["crossings"][number] | null {
  const level = outing.floods_at_m;
  const at = instantNear(outing, time);
  const waters = outing.waters
    .map((water, place) => ({ ...water, at: instantNear(outing, water.time), kind: tide.kinds[place] }))
    .toSorted((a, b) => a.at - b.at);
  const low = waters.findLast((water) => water.at < at);
  const high = waters.find((water) => water.at > at);
  if (level === null || low?.kind !== "low" || high?.kind !== "high") return null;
  if (level <= low.height_m || level >= high.height_m) return null;
  return {
    at: new Date(at).toISOString(),
    level_m: level,
    low_at: new Date(low.at).toISOString(),
    low_m: low.height_m,
    high_at: new Date(high.at).toISOString(),
    high_m: high.height_m,
  };
}
