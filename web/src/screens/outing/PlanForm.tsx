import { useState } from "react";
import { Form } from "react-bootstrap";
import type { Schemas } from "../../api/client";
import type { Light } from "../../questions/light";
import { type Outing, span } from "../../state/outings";
import { DateField } from "../../ui/ClockField";
import { PickField, TimeField } from "../../ui/fields";
import { KnownNumber } from "../../ui/NumberField";
import { outingWords } from "../../words/outing";
import { isZone } from "../../words/zone";
import { skyOf, whenOf, whereOf } from "./planSentences";
import { Sentence } from "./Sentence";
import { SkyOverHours } from "./SkyOverHours";
import { TideAndWeather } from "./TideAndWeather";

const SKIES = ["clear", "thin", "overcast", "heavy"] as const;
const SCENES = ["sky_lit", "sun_lit", "shade", "lamp_lit"] as const;

interface Props {
  outing: Outing;
  set: (change: Partial<Outing>) => void;
  /** What each entered water is; null where the others do not tell. */
  kinds: Schemas["TideAnswer"]["kinds"];
  /** When the plan ends [ms], null while that is not known. */
  end: number | null;
  /** The light of it, where it may be seen. */
  light: Light | undefined;
  /** What is changed on a picture is told, and can be taken back. */
  onEdit: (change: Partial<Outing>, message: string) => void;
}

/** Where, when and under what sky; whatever is typed is kept at once. */
export function PlanForm({ outing, set, kinds, end, light, onEdit }: Props) {
  const say = outingWords;
  const [zone, setZone] = useState(outing.zone);
  const ridge = outing.ridge;
  return (
    <div className="sentences">
      <Form.Group controlId="outing-name">
        <Form.Label>{say.name}</Form.Label>
        <Form.Control
          value={outing.name}
          maxLength={60}
          autoComplete="off"
          onChange={(event) => set({ name: event.target.value })}
        />
      </Form.Group>
      <Sentence text={whereOf(outing)}>
        <div className="pair">
          <KnownNumber
            id="outing-lat"
            label={say.latitude}
            value={outing.latitude}
            onValue={(latitude) => {
              if (latitude !== undefined) set({ latitude });
            }}
          />
          <KnownNumber
            id="outing-lon"
            label={say.longitude}
            value={outing.longitude}
            onValue={(longitude) => {
              if (longitude !== undefined) set({ longitude });
            }}
          />
        </div>
        <Form.Group controlId="outing-zone">
          <Form.Label>{say.zone}</Form.Label>
          <Form.Control
            value={zone}
            autoComplete="off"
            isInvalid={!isZone(zone)}
            aria-describedby={isZone(zone) ? undefined : "outing-zone-fault"}
            onChange={(event) => {
              setZone(event.target.value);
              if (isZone(event.target.value)) set({ zone: event.target.value });
            }}
          />
          {!isZone(zone) && (
            <p className="fault" id="outing-zone-fault">
              {say.noZone}
            </p>
          )}
        </Form.Group>
      </Sentence>
      <Sentence text={whenOf(outing, end ?? span(outing)[1])}>
        <Form.Group controlId="outing-date">
          <Form.Label>{say.date}</Form.Label>
          <DateField
            value={outing.date}
            onValue={(date) => {
              if (date) set({ date });
            }}
          />
        </Form.Group>
        <div className="pair">
          <TimeField
            id="outing-arrive"
            label={say.arrive}
            value={outing.arrive}
            onValue={(arrive) => set({ arrive })}
          />
          <TimeField
            id="outing-back"
            label={say.turnBack}
            value={outing.turn_back}
            onValue={(turn_back) => set({ turn_back })}
          />
        </div>
      </Sentence>
      <Sentence text={skyOf(outing)}>
        <div className="pair">
          <PickField
            id="outing-sky"
            label={say.sky}
            value={outing.sky}
            choices={SKIES}
            labels={say.skies}
            onValue={(sky) => set({ sky: sky as Schemas["Sky"] })}
          />
          <PickField
            id="outing-scene"
            label={say.scene}
            value={outing.scene}
            choices={SCENES}
            labels={say.scenes}
            onValue={(scene) => set({ scene: scene as Schemas["Scene"] })}
          />
        </div>
        {outing.scene === "sun_lit" && (
          <fieldset className="outing-tide">
            <legend>{say.ridge}</legend>
            <p className="quiet">{say.ridgeWhy}</p>
            <div className="pair">
              <KnownNumber
                id="outing-ridge-height"
                label={say.ridgeHeight}
                value={ridge?.height_m}
                onValue={(height_m) =>
                  set({
                    ridge: height_m === undefined ? null : { height_m, distance_m: ridge?.distance_m ?? 1000 },
                  })
                }
              />
              <KnownNumber
                id="outing-ridge-distance"
                label={say.ridgeDistance}
                value={ridge?.distance_m}
                onValue={(distance_m) => {
                  if (ridge && distance_m !== undefined) set({ ridge: { ...ridge, distance_m } });
                }}
              />
            </div>
          </fieldset>
        )}
      </Sentence>
      <SkyOverHours outing={outing} light={light} onEdit={onEdit} />
      <TideAndWeather outing={outing} set={set} kinds={kinds} />
    </div>
  );
}
