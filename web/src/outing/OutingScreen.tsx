import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Link } from "react-router";
import { Refused, type Schemas } from "../api/client";
import { useBench } from "../bench/useBench";
import { KnownNumber } from "../shell/NumberField";
import type { Laid } from "../bench/state";
import { typed } from "../shell/typed";
import { useNow } from "../shell/useNow";
import { words } from "../words";
import { roughTime, timeText } from "../words/times";
import { LightChart } from "./LightChart";
import { type Outing, span, useOutings } from "./outings";
import { type Light, type Swaps, useLight, usePlausible, useSwaps, useTide } from "./useLight";
import { clockIn, instantOf, isZone } from "./zone";
import "./outing.css";

const SKIES = ["clear", "thin", "overcast", "heavy"] as const;
const SCENES = ["sky_lit", "sun_lit", "shade", "lamp_lit"] as const;

/** A place and a day: how bright and how fast it changes, which glass when, when to leave. */
export function OutingScreen() {
  const { outings, current, choose, keep } = useOutings();
  const [laid] = useBench();
  const light = useLight(current);
  const swaps = useSwaps(current, laid);
  const tide = useTide(current);
  const set = (change: Partial<Outing>) => keep({ ...current, ...change });
  const nameOf = (id: string) => laid?.bag.find((glass) => glass.id === id)?.name ?? id;

  return (
    <div className="outing">
      <h1 className="visually-hidden">{words.outing.title}</h1>
      <section className="outing-plan" aria-label={words.outing.plan}>
        <Form.Group controlId="outing-which">
          <Form.Label>{words.outing.which}</Form.Label>
          <Form.Select value={current.id} onChange={(event) => choose(event.target.value)}>
            {outings
              .filter((one) => !one.archived || one.id === current.id)
              .map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
          </Form.Select>
        </Form.Group>
        <div className="outing-actions">
          <Button
            variant="quiet"
            size="sm"
            onClick={() =>
              keep({ ...current, id: crypto.randomUUID(), name: words.kit.copyOf(current.name), readings: [] })
            }
          >
            {words.kit.copy}
          </Button>
          <Button variant="quiet" size="sm" onClick={() => set({ archived: !current.archived })}>
            {current.archived ? words.outing.unarchive : words.outing.archive}
          </Button>
        </div>
        <Plan key={current.id} outing={current} set={set} />
      </section>
      <section className="outing-light" aria-label={words.outing.light}>
        {light.error && (
          <p className="fault" role="alert">
            {light.error instanceof Refused ? light.error.message : words.trouble.unreachable}
          </p>
        )}
        {light.data && (
          <LightChart
            outing={current}
            light={light.data}
            swaps={swaps}
            tide={tide.error ? undefined : tide.data}
            nameOf={nameOf}
          />
        )}
      </section>
      <section className="outing-side" aria-label={words.outing.side}>
        {light.data && <Next outing={current} light={light.data} />}
        <Readings key={`readings-${current.id}`} outing={current} set={set} laid={laid} light={light.data} />
        <SwapList outing={current} swaps={swaps} nameOf={nameOf} />
        <Leave outing={current} tide={tide.data} error={tide.error} />
      </section>
    </div>
  );
}

function Plan({ outing, set }: { outing: Outing; set: (change: Partial<Outing>) => void }) {
  const say = words.outing;
  const [zone, setZone] = useState(outing.zone);
  return (
    <div className="stacked">
      <Form.Group controlId="outing-name">
        <Form.Label>{say.name}</Form.Label>
        <Form.Control
          value={outing.name}
          maxLength={60}
          autoComplete="off"
          onChange={(event) => set({ name: event.target.value })}
        />
      </Form.Group>
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
      <Form.Group controlId="outing-date">
        <Form.Label>{say.date}</Form.Label>
        <Form.Control
          type="date"
          value={outing.date}
          onChange={(event) => {
            if (event.target.value) set({ date: event.target.value });
          }}
        />
      </Form.Group>
      <div className="pair">
        <Time id="outing-arrive" label={say.arrive} value={outing.arrive} onValue={(arrive) => set({ arrive })} />
        <Time id="outing-back" label={say.turnBack} value={outing.turnBack} onValue={(turnBack) => set({ turnBack })} />
      </div>
      <div className="pair">
        <Pick
          id="outing-sky"
          label={say.sky}
          value={outing.sky}
          choices={SKIES}
          said={say.skies}
          onValue={(sky) => set({ sky: sky as Schemas["Sky"] })}
        />
        <Pick
          id="outing-scene"
          label={say.scene}
          value={outing.scene}
          choices={SCENES}
          said={say.scenes}
          onValue={(scene) => set({ scene: scene as Schemas["Scene"] })}
        />
      </div>
      <fieldset className="outing-tide">
        <legend>{say.tide}</legend>
        <p className="quiet">{say.tideWhy}</p>
        {outing.waters.map((water, at) => (
          <div className="tide-row" key={at}>
            <Form.Control
              type="time"
              aria-label={say.waterTime(at + 1)}
              value={water.time}
              onChange={(event) => {
                if (event.target.value) set({ waters: outing.waters.with(at, { ...water, time: event.target.value }) });
              }}
            />
            <Form.Control
              inputMode="decimal"
              aria-label={say.waterHeight(at + 1)}
              defaultValue={water.heightM}
              onChange={(event) => {
                const heightM = typed(event.target.value);
                if (heightM !== undefined) set({ waters: outing.waters.with(at, { ...water, heightM }) });
              }}
            />
            <Button
              variant="quiet"
              aria-label={`${words.kit.rowRemove}: ${at + 1}`}
              onClick={() => set({ waters: outing.waters.filter((_, each) => each !== at) })}
            >
              ×
            </Button>
          </div>
        ))}
        <Button variant="quiet" onClick={() => set({ waters: [...outing.waters, { time: "12:00", heightM: 1 }] })}>
          {say.waterAdd}
        </Button>
        <div className="thirds">
          <KnownNumber
            id="outing-floods"
            label={say.floods}
            value={outing.floodsAtM}
            onValue={(floodsAtM) => set({ floodsAtM: floodsAtM ?? null })}
          />
          <KnownNumber
            id="outing-walk"
            label={say.walk}
            value={outing.walkMinutes}
            onValue={(walkMinutes) => {
              if (walkMinutes !== undefined) set({ walkMinutes });
            }}
          />
          <KnownNumber
            id="outing-margin"
            label={say.margin}
            value={outing.marginMinutes}
            onValue={(marginMinutes) => {
              if (marginMinutes !== undefined) set({ marginMinutes });
            }}
          />
        </div>
      </fieldset>
    </div>
  );
}

function Time(props: { id: string; label: string; value: string; onValue: (value: string) => void }) {
  return (
    <Form.Group controlId={props.id}>
      <Form.Label>{props.label}</Form.Label>
      <Form.Control
        type="time"
        value={props.value}
        onChange={(event) => {
          if (event.target.value) props.onValue(event.target.value);
        }}
      />
    </Form.Group>
  );
}

interface PickProps {
  id: string;
  label: string;
  value: string;
  choices: readonly string[];
  said: Record<string, string>;
  onValue: (value: string) => void;
}

function Pick({ id, label, value, choices, said, onValue }: PickProps) {
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Select value={value} onChange={(event) => onValue(event.target.value)}>
        {choices.map((choice) => (
          <option key={choice} value={choice}>
            {said[choice]}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}

/** What comes next by the clock, from now while the outing runs, else from its beginning. */
function Next({ outing, light }: { outing: Outing; light: Light }) {
  const now = useNow(15_000);
  const [from, to] = span(outing);
  const live = now >= from && now <= to;
  const since = live ? now : from;
  const coming = light.events.find((event) => event.at != null && Date.parse(event.at) > since);
  const missing = light.events.filter(
    (event) => event.at == null && (event.name === "sunrise" || event.name === "sunset"),
  );
  return (
    <div className="outing-next">
      {coming?.at != null && (
        <p className="outing-big">
          {live
            ? words.outing.inMinutes(
                Math.max(1, Math.round((Date.parse(coming.at) - now) / 60_000)),
                words.outing.events[coming.name] ?? "",
              )
            : words.outing.eventAt(words.outing.events[coming.name] ?? "", clockIn(Date.parse(coming.at), outing.zone))}
        </p>
      )}
      {missing.length > 0 && (
        <p className="quiet">
          {words.outing.notHere(missing.map((event) => words.outing.events[event.name]).join(", "))}
        </p>
      )}
    </div>
  );
}

interface ReadingsProps {
  outing: Outing;
  set: (change: Partial<Outing>) => void;
  laid: Laid | null;
  light: Light | undefined;
}

/** Own readings anchor the forecast; the bench's own is one press away. */
function Readings({ outing, set, laid, light }: ReadingsProps) {
  const now = useNow(30_000);
  const [from, to] = span(outing);
  const [time, setTime] = useState(() => clockIn(now >= from && now <= to ? now : from + (to - from) / 4, outing.zone));
  const at = instantOf(outing.date, time, outing.zone);
  const plausible = usePlausible(outing, laid, at);
  const say = words.outing;
  return (
    <div className="outing-readings">
      <h2>{say.readings}</h2>
      <ul className="plain-list">
        {outing.readings.map((reading, place) => {
          const status = light?.readings.find((one) => Date.parse(one.at) === Date.parse(reading.at))?.status;
          return (
            <li key={place} className="reading-row">
              <span>
                {clockIn(Date.parse(reading.at), outing.zone)} EV {reading.ev100.toFixed(1)}{" "}
                <span className="quiet">{status && say.statuses[status]}</span>
              </span>
              <Button
                variant="quiet"
                size="sm"
                aria-label={`${words.kit.forget}: ${clockIn(Date.parse(reading.at), outing.zone)}`}
                onClick={() => set({ readings: outing.readings.filter((_, each) => each !== place) })}
              >
                ×
              </Button>
            </li>
          );
        })}
      </ul>
      <div className="reading-add">
        <Form.Control
          type="time"
          aria-label={say.readingTime}
          value={time}
          onChange={(event) => setTime(event.target.value || time)}
        />
        <Button
          variant="quiet"
          disabled={!plausible}
          onClick={() => {
            if (!plausible) return;
            const reading = { at: new Date(at).toISOString(), ev100: Math.round(plausible.ev100 * 100) / 100 };
            set({ readings: [...outing.readings.filter((one) => one.at !== reading.at), reading] });
          }}
        >
          {plausible ? say.takeReading(plausible.ev100.toFixed(1)) : say.noReading}
        </Button>
      </div>
      {plausible?.advice && <p className="outing-ask">{plausible.advice.text}</p>}
    </div>
  );
}

function SwapList({
  outing,
  swaps,
  nameOf,
}: {
  outing: Outing;
  swaps: Swaps | undefined;
  nameOf: (id: string) => string;
}) {
  const say = words.outing;
  const clock = (instant: string) => clockIn(Date.parse(instant), outing.zone);
  return (
    <div>
      <h2>{say.swaps}</h2>
      {!swaps && (
        <p>
          {say.noAim}{" "}
          <Link to="/" className="plain-link">
            {words.run.toBench}
          </Link>
        </p>
      )}
      <ol className="swap-list">
        {swaps?.stretches.map((stretch) => (
          <li key={stretch.start}>
            <strong>{clock(stretch.start)}</strong>
            <span>
              {stretch.glass ? (
                <>
                  {stretch.glass.map(nameOf).join(" + ") || words.log.bare}, f/{stretch.aperture}, ISO {stretch.iso}
                  <span className="quiet">
                    {" "}
                    {say.times(roughTime(stretch.first_seconds ?? 0), roughTime(stretch.last_seconds ?? 0))}
                    {stretch.hand_seconds > 0 && `; ${say.hands(timeText(stretch.hand_seconds))}`}
                  </span>
                </>
              ) : (
                say.outOfAim
              )}
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}

function Leave({
  outing,
  tide,
  error,
}: {
  outing: Outing;
  tide: Schemas["TideAnswer"] | undefined;
  error: Error | null;
}) {
  const say = words.outing;
  return (
    <div className="outing-leave">
      <h2>{say.leaving}</h2>
      {error ? (
        <p className="fault">{error instanceof Refused ? error.message : words.trouble.unreachable}</p>
      ) : tide?.leave_by != null ? (
        <p className="outing-big">{say.leaveBy(clockIn(Date.parse(tide.leave_by), outing.zone))}</p>
      ) : (
        <p>{outing.waters.length < 2 || outing.floodsAtM === null ? say.leaveUnknown : say.neverFloods}</p>
      )}
      <p className="advice-harm outing-caution">{say.caution}</p>
    </div>
  );
}
