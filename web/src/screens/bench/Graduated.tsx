import { useState } from "react";
import { Form } from "react-bootstrap";
import { useGraduated } from "../../questions/extras";
import { words } from "../../words";
import { TimeText } from "../../parts/meter/TimeText";
import { useShutterText } from "../../parts/meter/typedTime";
import { Said } from "./ExtraParts";
import type { Laid } from "../../state/bench";

const HORIZONS = ["flat", "uneven", "sun_on_it"] as const;

/** Which graduated glass, from two readings and the line between sky and ground. */
export function Graduated({ laid }: { laid: Laid }) {
  const sky = useShutterText("", laid.step, laid.dialLimit);
  const ground = useShutterText(laid.bench.meter === "camera" ? laid.bench.shutter : "", laid.step, laid.dialLimit);
  const [share, setShare] = useState(50);
  const [horizon, setHorizon] = useState<(typeof HORIZONS)[number]>("flat");
  const say = words.extras.graduated;
  const owned = laid.items
    .filter((item) => item.facts.kind === "graduated")
    .map((item) => ({ id: item.id, stops: item.facts.stops, transition: item.facts.transition }));
  const read = sky.read && ground.read && { sky: sky.read.said, ground: ground.read.said };
  const chosen = useGraduated(read && { ...read, sky_share: share / 100, horizon, owned, step: laid.step });
  const found = chosen.shown;
  const pick = laid.items.find((item) => item.id === found?.pick);
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
      <Said asked={chosen}>
        {found && (
          <>
            <p>{say.lead(found.sky_stops.toFixed(1))}</p>
            {found.wanted_stops < 0.5 ? (
              <p className="extra-answer">{say.none}</p>
            ) : (
              <>
                <p className="extra-answer">
                  {pick
                    ? say.take(pick.name, found.pick_stops.toFixed(0))
                    : say.buy(found.wanted_stops.toFixed(0), found.transition)}
                </p>
                <p>{say.left(found.sky_lead.toFixed(1))}</p>
                <p>{say.falls(found.average_falls.toFixed(1))}</p>
                <p className="quiet">{say.estimate}</p>
              </>
            )}
          </>
        )}
      </Said>
    </div>
  );
}
