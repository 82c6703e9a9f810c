import { useState } from "react";
import { Button } from "react-bootstrap";
import { type Light, usePlausible } from "../../questions/light";
import { plausibleOf } from "../../state/asks";
import type { Laid } from "../../state/bench";
import { type Outing, span } from "../../state/outings";
import { ClockField } from "../../ui/ClockField";
import { useNow } from "../../ui/useNow";
import { bagWords } from "../../words/bag";
import { clockIn } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { instantOf, wallTime } from "../../words/zone";

interface Props {
  outing: Outing;
  set: (change: Partial<Outing>) => void;
  laid: Laid | null;
  light: Light | undefined;
}

/** Own readings anchor the forecast; the bench's own is one press away. */
export function Readings({ outing, set, laid, light }: Props) {
  const now = useNow(30_000);
  const [from, to] = span(outing);
  const within = (instant: number) => instant >= from && instant <= to;
  // The bench's reading is of when it was metered, or of the minute of the outing that was chosen there.
  const metered = laid?.bench.meteredAt == null ? null : Date.parse(laid.bench.meteredAt);
  const taken = metered !== null && within(metered) ? metered : within(now) ? now : from + (to - from) / 4;
  const chosen = laid?.bench.useOuting === true ? laid.bench.lightAt : null;
  const [asking, setAsking] = useState<number | null>(null);
  const [typedTime, setTime] = useState<string | null>(null);
  const time = typedTime ?? chosen ?? wallTime(taken, outing.zone);
  const at = instantOf(outing.date, time, outing.zone);
  const plausible = usePlausible(laid && plausibleOf(outing, laid, at)).answer;
  const say = outingWords;
  // A reading that does not fit this hour is asked about before it moves the plan; another reading is another question.
  const doubtful = plausible?.advice && asking === plausible.ev100 ? asking : null;
  const take = () => {
    if (!plausible) return;
    const reading = { at: new Date(at).toISOString(), ev100: Math.round(plausible.ev100 * 100) / 100 };
    set({ readings: [...outing.readings.filter((held) => held.at !== reading.at), reading] });
    setAsking(null);
  };
  return (
    <div className="outing-readings">
      <ul className="plain-list">
        {outing.readings.map((reading, place) => {
          const status = light?.readings.find((weighed) => Date.parse(weighed.at) === Date.parse(reading.at))?.status;
          return (
            <li key={place} className="reading-row">
              <span>
                {clockIn(Date.parse(reading.at), outing.zone)} EV {reading.ev100.toFixed(1).replace("-", "−")}{" "}
                <span className="quiet">{status && say.statuses[status]}</span>
              </span>
              <Button
                variant="quiet"
                size="sm"
                aria-label={`${bagWords.forget}: ${clockIn(Date.parse(reading.at), outing.zone)}`}
                onClick={() => set({ readings: outing.readings.filter((_, each) => each !== place) })}
              >
                ×
              </Button>
            </li>
          );
        })}
      </ul>
      <div className="reading-add">
        <ClockField label={say.readingTime} value={time} onValue={(value) => setTime(value || time)} />
        <Button
          variant="quiet"
          disabled={!plausible || laid?.bench.expectedSd != null || doubtful !== null}
          onClick={() => {
            if (plausible?.advice) setAsking(plausible.ev100);
            else take();
          }}
        >
          {plausible && laid?.bench.expectedSd == null ? say.takeReading(plausible.ev100.toFixed(1)) : say.noReading}
        </Button>
      </div>
      {plausible?.advice && (
        <p className="outing-ask" role={doubtful === null ? undefined : "alert"}>
          {plausible.advice.text}
        </p>
      )}
      {doubtful !== null && (
        <div className="reading-asked">
          <Button variant="signal" onClick={take}>
            {say.takeAllTheSame}
          </Button>
          <Button variant="quiet" onClick={() => setAsking(null)}>
            {say.meterAgain}
          </Button>
        </div>
      )}
    </div>
  );
}
