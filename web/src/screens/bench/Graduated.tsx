import { useState } from "react";
import { Form } from "react-bootstrap";
import { useGraduated } from "../../questions/extras";
import { dialogWords } from "../../words/dialogs";
import { bagWords } from "../../words/bag";
import { TimeText } from "../../parts/meter/TimeText";
import { useShutterText } from "../../parts/meter/typedTime";
import { Choice } from "../../ui/fields";
import { Answered } from "./ExtraParts";
import type { Laid } from "../../state/bench";

/** How much brighter than the ground the sky is to stay [stops]; the last is a dark sky, on purpose. */
const LEADS = [1, 0, -1] as const;
const HORIZONS = ["flat", "uneven", "sun_on_it"] as const;

/** Which graduated glass, from two readings and the line between sky and ground. */
export function Graduated({ laid }: { laid: Laid }) {
  const sky = useShutterText("", laid.step, laid.dialLimit);
  const ground = useShutterText(laid.bench.meter === "camera" ? laid.bench.shutter : "", laid.step, laid.dialLimit);
  const [share, setShare] = useState(50);
  const [lead, setLead] = useState<number>(LEADS[0]);
  const [horizon, setHorizon] = useState<(typeof HORIZONS)[number]>("flat");
  const say = dialogWords.extras.graduated;
  const owned = laid.items
    .filter((item) => item.facts.kind === "graduated")
    .map((item) => ({ id: item.id, stops: item.facts.stops, transition: item.facts.transition }));
  const read = sky.read && ground.read && { sky: sky.read.label, ground: ground.read.label };
  const chosen = useGraduated(
    read && { ...read, sky_share: share / 100, horizon, owned, step: laid.step, lead_stops: lead },
  );
  const found = chosen.shown;
  const pick = laid.items.find((item) => item.id === found?.pick);
  const picked = () => {
    if (!found) return "";
    if (pick) return say.take(pick.name, bagWords.stops(found.pick_stops.toFixed(0)));
    if (found.wanted_stops < WORTH_A_FILTER) return say.none;
    const wanted = bagWords.stops(found.wanted_stops.toFixed(0));
    return found.suits ? say.noneOfYours(wanted) : say.buy(wanted, found.transition);
  };
  return (
    <div className="extra">
      <p>{say.intro}</p>
      <div className="thirds">
        <TimeText id="grad-sky" label={say.sky} time={sky} />
        <TimeText id="grad-ground" label={say.ground} time={ground} />
        <Form.Group controlId="grad-horizon">
          <Form.Label>{say.horizon}</Form.Label>
          <Form.Select
            value={horizon}
            onChange={(event) => setHorizon(event.target.value as (typeof HORIZONS)[number])}
          >
            {HORIZONS.map((entry) => (
              <option key={entry} value={entry}>
                {say.horizons[entry]}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      </div>
      <Choice
        name="grad-lead"
        label={say.keep}
        value={lead}
        choices={LEADS.map((stops) => [stops, say.keeps[String(stops)] ?? ""] as const)}
        onValue={setLead}
      />
      <Form.Group controlId="grad-share">
        <Form.Label>{say.share(share)}</Form.Label>
        <Form.Range
          min={10}
          max={90}
          step={5}
          value={share}
          onChange={(event) => setShare(Number(event.target.value))}
        />
      </Form.Group>
      <Answered reply={chosen}>
        {found && (
          <>
            <p>{say.lead(found.sky_stops.toFixed(1))}</p>
            <p className="extra-answer">{picked()}</p>
            <p>{leftBetween(found.sky_lead)}</p>
            {found.pick_stops > 0 && (
              <>
                <p>{say.falls(found.average_falls.toFixed(1))}</p>
                <p className="quiet">{say.estimate}</p>
              </>
            )}
          </>
        )}
      </Answered>
    </div>
  );
}

/** Less is no filter's work [stops]. */
const WORTH_A_FILTER = 0.5;

/** What is left between sky and ground, whichever is the brighter. */
function leftBetween(lead: number): string {
  const say = dialogWords.extras.graduated;
  const stops = Math.abs(lead).toFixed(1);
  if (stops === "0.0") return say.alike;
  return lead > 0 ? say.left(stops) : say.darker(stops);
}
