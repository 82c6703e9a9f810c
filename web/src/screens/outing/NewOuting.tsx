import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { useLooks } from "../../questions/looks";
import { type DaysQuestion, useCoordinates, useDays, useZones } from "../../questions/places";
import { looksOf } from "../../state/asks";
import type { Laid, Move } from "../../state/bench";
import { looks as ownLooks } from "../../state/looks";
import type { Outing } from "../../state/outings";
import {
  nextOf,
  placesUsed,
  planned,
  samePlace,
  type Spot,
  type Stretch,
  watersAround,
  watersOn,
  type WhenName,
} from "../../state/planning";
import { type Kind, toggledWant } from "../../state/scene";
import { DateField } from "../../ui/ClockField";
import { Fault } from "../../ui/Fault";
import { say as toast } from "../../ui/say";
import { nowMs } from "../../ui/worldClock";
import { words } from "../../words";
import { clockIn, placeClock } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { dateIn, dayName, ITS_OWN } from "../../words/zone";
import { Waypoints } from "./Waypoints";

interface Props {
  outings: readonly Outing[];
  laid: Laid | null;
  move: (move: Move) => void;
  keep: (outing: Outing) => void;
  onClose: () => void;
}

const WHENS: WhenName[] = ["dawn", "dusk", "blue", "low"];
const MOST_USED = 4;
const DAYS = 14;

/** Where, when, what: an outing in three touches. */
export function NewOuting({ outings, laid, move, keep, onClose }: Props) {
  const say = outingWords.fresh;
  const [now] = useState(nowMs);
  const used = placesUsed(outings).slice(0, MOST_USED);
  const [picked, setPicked] = useState(used[0]?.id ?? null);
  const [text, setText] = useState("");
  /** What the waypoint is called whose coordinates stand there. */
  const [waypoint, setWaypoint] = useState<string | null>(null);
  const [chosenZone, setZone] = useState<string | null>(null);
  const [chosenDate, setDate] = useState<string | null>(null);
  const [when, setWhen] = useState<WhenName>("dawn");

  const typed = useCoordinates(text);
  const zoned = useZones(typed.answer ? { latitude: typed.answer.latitude, longitude: typed.answer.longitude } : null);
  const zones = zoned.answer?.zones;
  const before = used.find(({ id }) => id === picked);
  const spotGiven = text.trim() === "" ? (before ?? null) : written(typed.answer, zones, chosenZone);
  const spot = spotGiven && waypoint !== null ? { ...spotGiven, name: waypoint } : spotGiven;
  const same = spot ? outings.filter((outing) => samePlace(outing, spot)) : [];
  const first = chosenDate ?? dateIn(now, spot?.zone ?? ITS_OWN);
  const daysAnswer = useDays(spot && daysOf(spot, first, same));
  const days = daysAnswer.answer?.days;
  const next = days && nextOf(days, chosenDate === null ? now : 0);
  const stretch = next?.[when];

  const locate = () => {
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => {
        setText(`${coords.latitude.toFixed(5)}, ${coords.longitude.toFixed(5)}`);
        setZone(null);
        setWaypoint(null);
      },
      () => toast({ text: say.mineRefused }),
    );
  };
  const plan = () => {
    if (!spot || !stretch) return;
    const outing = planned(spot, stretch, placesUsed(same)[0]);
    keep({ ...outing, waters: watersOn(same, outing.date) });
    toast({ text: say.planned(outing.name) });
    onClose();
  };

  return (
    <Modal show onHide={onClose} centered scrollable size="lg" aria-labelledby="fresh-title">
      <Modal.Header closeButton closeLabel={words.close}>
        <Modal.Title id="fresh-title">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="fresh">
        <section aria-label={say.where}>
          <h3>{say.where}</h3>
          <div className="fresh-choices" role="group" aria-label={say.where}>
            {used.map((outing) => (
              <Button
                key={outing.id}
                variant="choice"
                aria-pressed={text.trim() === "" && picked === outing.id}
                onClick={() => {
                  setPicked(outing.id);
                  setText("");
                  setWaypoint(null);
                }}
              >
                {outing.name || outingWords.title}
              </Button>
            ))}
          </div>
          <div className="fresh-text">
            <Form.Group controlId="fresh-place">
              <Form.Label>{say.text}</Form.Label>
              <Form.Control
                value={text}
                placeholder={say.example}
                autoComplete="off"
                spellCheck={false}
                maxLength={120}
                onChange={({ target }) => {
                  setText(target.value);
                  setZone(null);
                  setWaypoint(null);
                }}
              />
            </Form.Group>
            <Button variant="quiet" onClick={locate}>
              {say.mine}
            </Button>
          </div>
          <Waypoints
            onTake={({ name, latitude, longitude }) => {
              setText(`${latitude.toFixed(5)}, ${longitude.toFixed(5)}`);
              setZone(null);
              setWaypoint(name.slice(0, 60));
            }}
          />
          <Fault error={typed.error ?? zoned.error} again={typed.error ? typed.again : zoned.again} />
          {typed.answer && text.trim() !== "" && (
            <p className="fresh-means">
              <strong>{typed.answer.text}</strong>
              {spot && <span className="quiet"> {spot.zone}</span>}
            </p>
          )}
          {zones && zones.length > 1 && (
            <div className="fresh-choices" role="group" aria-label={say.zone}>
              <span>{say.zone}</span>
              {zones.map((zone) => (
                <Button key={zone} variant="choice" aria-pressed={chosenZone === zone} onClick={() => setZone(zone)}>
                  {zone}
                </Button>
              ))}
            </div>
          )}
        </section>
        <section aria-label={say.when}>
          <h3>{say.when}</h3>
          <div className="fresh-choices fresh-whens" role="group" aria-label={say.when}>
            {WHENS.map((each) => (
              <Button
                key={each}
                variant="choice"
                aria-pressed={when === each}
                disabled={next !== undefined && next[each] === undefined}
                onClick={() => setWhen(each)}
              >
                <strong>{say.whens[each]}</strong>
                <span>{spot && next ? hours(next[each], spot.zone, each) : "–"}</span>
              </Button>
            ))}
          </div>
          <Fault error={daysAnswer.error} again={daysAnswer.again} />
          <Form.Group controlId="fresh-day" className="fresh-day">
            <Form.Label>{say.day}</Form.Label>
            <DateField value={first} onValue={(date) => setDate(date || null)} />
          </Form.Group>
        </section>
        <section aria-label={say.what}>
          <h3>{say.what}</h3>
          {laid && <What laid={laid} move={move} />}
        </section>
      </Modal.Body>
      <Modal.Footer>
        {days && !stretch && <p className="quiet me-auto mb-0">{say.nothing}</p>}
        <Button variant="signal" disabled={!spot || !stretch} onClick={plan}>
          {say.plan}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

/** Which looks are wanted, of what the bench says is in the picture. */
function What({ laid, move }: { laid: Laid; move: (move: Move) => void }) {
  const own = ownLooks.use();
  const { scene } = laid.bench;
  const windows = useLooks(looksOf(laid, own)).shown?.windows ?? [];
  if (scene.subjects.length === 0) return <p className="quiet mb-0">{outingWords.fresh.noWhat}</p>;
  const kinds = [...new Set(windows.map(({ kind }) => kind))];
  return (
    <div className="fresh-looks">
      {kinds.map((kind) => (
        <div key={kind} className="fresh-choices" role="group" aria-label={words.looks.kinds[kind as Kind]}>
          <span>{words.looks.kinds[kind as Kind]}</span>
          {[...new Set(windows.filter((window) => window.kind === kind).map(({ look }) => look))].map((look) => (
            <Button
              key={look}
              variant="choice"
              aria-pressed={scene.wants.some((want) => want.kind === kind && want.look === look)}
              onClick={() =>
                move({ do: "set", change: { scene: { ...scene, wants: toggledWant(scene.wants, { kind, look }) } } })
              }
            >
              {look}
            </Button>
          ))}
        </div>
      ))}
    </div>
  );
}

function hours(stretch: Stretch | undefined, zone: string, of: WhenName): string {
  if (!stretch) return of === "low" ? outingWords.fresh.noLow : "–";
  const day = dayName(dateIn(stretch.from, zone));
  return outingWords.fresh.hours(day, clockIn(stretch.from, zone), placeClock(stretch.to, zone));
}

/** A place that was typed, once its clock is known; where two may hang there the person says which. */
function written(
  place: { latitude: number; longitude: number; text: string } | undefined,
  zones: string[] | undefined,
  chosen: string | null,
): Spot | null {
  if (!place || !zones) return null;
  const zone = zones.length === 1 ? zones[0] : zones.length === 0 ? ITS_OWN : chosen;
  return zone == null ? null : { name: place.text, latitude: place.latitude, longitude: place.longitude, zone };
}

function daysOf(spot: Spot, first: string, same: readonly Outing[]): DaysQuestion {
  return {
    latitude: spot.latitude,
    longitude: spot.longitude,
    zone: spot.zone,
    first,
    days: DAYS,
    sky: "clear",
    scene: "sky_lit",
    waters: watersAround(same, first, DAYS),
    matter: "date",
  };
}
