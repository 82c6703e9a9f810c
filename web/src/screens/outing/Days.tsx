import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { askWaters, type DaysQuestion, useDays } from "../../questions/places";
import { change, type Outing } from "../../state/outings";
import { at, type Day, type Matter, moved, samePlace, stretchFor, watersAround, watersOn } from "../../state/planning";
import { DateField } from "../../ui/ClockField";
import { Fault } from "../../ui/Fault";
import { say as toast } from "../../ui/say";
import { nowMs } from "../../ui/worldClock";
import { bagWords } from "../../words/bag";
import { clockIn, withClocks } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { dateIn, dayName, instantOf, wallTime } from "../../words/zone";
import { FoldedChoice } from "../../ui/kinds/FoldedChoice";
import { MainAction } from "../../ui/kinds/MainAction";
import { words } from "../../words";
import { DayAroundPole, type Pole } from "./DayAroundPole";

const DAY = 86_400_000;
const DAYS = 14;
const MATTERS: Matter[] = [
  "date",
  "low_at_sunrise",
  "low_at_sunset",
  "look_at_sunrise",
  "look_at_sunset",
  "moonlight",
  "dark",
];

const SUNRISE: Pole = { event: "sunrise", before: 3, after: 3 };
const SUNSET: Pole = { event: "sunset", before: 3, after: 3 };
const NIGHT: Pole = { event: "sunset", before: 1, after: 11 };
/** What the hours of a day hang on, by what matters. */
const POLES: Record<Matter, Pole> = {
  date: SUNRISE,
  low_at_sunrise: SUNRISE,
  low_at_sunset: SUNSET,
  look_at_sunrise: SUNRISE,
  look_at_sunset: SUNSET,
  moonlight: NIGHT,
  dark: NIGHT,
};
const MOON: readonly Matter[] = ["moonlight", "dark"];

type Water = NonNullable<DaysQuestion["waters"]>[number];

interface Props {
  outing: Outing;
  outings: readonly Outing[];
  /** The look on the bench as a time, with this bag; null without one. */
  wish: DaysQuestion["wish"];
  onClose: () => void;
}

/** Fourteen days of a place in the order of what matters, each around its pole; the one that is chosen is planned. */
export function Days({ outing, outings, wish, onClose }: Props) {
  const say = outingWords.days;
  const [first, setFirst] = useState(() => {
    const today = dateIn(nowMs(), outing.zone);
    const before = shifted(outing.date, -3);
    return before > today ? before : today;
  });
  const [matter, setMatter] = useState<Matter>("date");
  const [fed, setFed] = useState<Water[]>([]);
  const [fault, setFault] = useState<unknown>(null);
  const [picked, setPicked] = useState<string | null>(null);
  const same = outings.filter((other) => samePlace(other, outing));
  const own = watersAround(same, first, DAYS);
  const answer = useDays({
    latitude: outing.latitude,
    longitude: outing.longitude,
    zone: outing.zone,
    first,
    days: DAYS,
    sky: outing.sky,
    scene: outing.scene,
    ridge: outing.ridge,
    waters: [...own, ...fed],
    wish: wish ?? null,
    matter,
  } satisfies DaysQuestion);
  const days = answer.shown?.days ?? [];
  // The best by its reason, until somebody has chosen another.
  const best = matter === "date" ? days.find(({ date }) => date === outing.date) : days[0];
  const chosen = days.find(({ date }) => date === picked) ?? best;
  const pole = POLES[matter];

  const feed = async () => {
    const from = instantOf(first, "00:00", outing.zone);
    try {
      const held = new Set(own.map((water) => dateIn(Date.parse(water.at), outing.zone)));
      const found = await askWaters(outing.latitude, outing.longitude, from, from + DAYS * DAY);
      // Where one's own entries stand the stand-in says nothing.
      setFed(found.filter((water) => !held.has(dateIn(Date.parse(water.at), outing.zone))));
      setFault(null);
    } catch (error) {
      setFault(error);
    }
  };
  const choose = (day: Day) => {
    const stretch = stretchFor(day, matter);
    const entered = watersOn(same, day.date);
    const waters = entered.length > 0 ? entered : watersOf(day, fed, outing.zone);
    const undo = change(outing, moved(outing, stretch ? at(stretch, outing.zone) : { date: day.date }, waters));
    toast({ text: say.taken(dayName(day.date)), action: { label: bagWords.undo, act: undo } });
    onClose();
  };

  return (
    <>
      <section className="outing-stage days" aria-label={say.title}>
        <div className="days-head">
          <h2>{chosen ? dayName(chosen.date) : say.title}</h2>
          <p>{chosen && sentenceOf(chosen, outing.zone)}</p>
        </div>
        <div className="days-ask">
          <span className="quiet">{say.matter}</span>
          <FoldedChoice
            label={say.matter}
            value={matter}
            choices={MATTERS.map((each) => [each, say.matters[each] ?? each] as const)}
            onValue={(next) => {
              setMatter(next);
              setPicked(null);
            }}
          />
          <Form.Group controlId="days-from">
            <Form.Label>{say.from}</Form.Label>
            <DateField
              value={first}
              onValue={(date) => {
                if (date) setFirst(date);
                setFed([]);
              }}
            />
          </Form.Group>
          <Button variant="quiet" onClick={() => void feed()}>
            {say.feed}
          </Button>
        </div>
        {fed.length > 0 && <p className="simulated">{outingWords.feedUsed}</p>}
        {answer.shown?.none_because != null && <p className="outing-ask">{answer.shown.none_because}</p>}
        <Fault error={fault} />
        <Fault error={answer.error} again={answer.again} />
        <p className="days-hours" aria-hidden>
          <span>{say.before(pole.before)}</span>
          <strong>{words.events[pole.event]}</strong>
          <span>{say.after(pole.after)}</span>
        </p>
        <ol className="plain-list days-list" data-stale={answer.stale || undefined}>
          {days.map((day) => {
            const open = day.date === chosen?.date;
            return (
              <li key={day.date}>
                <button
                  type="button"
                  className="day"
                  aria-pressed={open}
                  aria-label={dayText(day, outing.zone)}
                  onClick={() => setPicked(day.date)}
                >
                  <span className="day-said">
                    <strong>{dayName(day.date)}</strong>
                    <span>{sentenceOf(day, outing.zone)}</span>
                  </span>
                  <DayAroundPole day={day} pole={pole} moon={MOON.includes(matter)} zone={outing.zone} />
                </button>
                {open && <p className="day-more">{detailsOf(day, outing.zone).join("; ")}</p>}
              </li>
            );
          })}
        </ol>
        <p className="days-key">
          <span data-key="look">{wish ? say.keyLook : say.noLook}</span>
          <span data-key="water">{say.keyWater}</span>
        </p>
      </section>
      <div className="outing-action action-place">
        {chosen && chosen.date !== outing.date ? (
          <MainAction onAct={() => choose(chosen)}>{say.plan(dayName(chosen.date))}</MainAction>
        ) : (
          <MainAction onAct={onClose}>{say.close}</MainAction>
        )}
      </div>
    </>
  );
}

/** What the feed said of a day goes along with it, marked; nothing where it was not asked. */
function watersOf(day: Day, fed: readonly Water[], zone: string): Outing["waters"] {
  return fed
    .filter(({ at }) => Date.parse(at) >= Date.parse(day.begins) && Date.parse(at) < Date.parse(day.ends))
    .slice(0, 8)
    .map(({ at, height_m, kind = null }) => ({
      time: wallTime(Date.parse(at), zone),
      height_m,
      kind,
      source: "simulated" as const,
    }));
}

function clockOf(day: Day, name: string, zone: string): string | null {
  const found = day.events.find((event) => event.name === name)?.at;
  return found == null ? null : clockIn(Date.parse(found), zone);
}

/** Why this day, or when the sun comes and goes. */
function sentenceOf(day: Day, zone: string): string {
  const { sun } = outingWords.days;
  return day.why != null ? withClocks(day.why) : sun(clockOf(day, "sunrise", zone), clockOf(day, "sunset", zone));
}

/** Sun, moon, water and look of a day in words. */
function detailsOf(day: Day, zone: string): string[] {
  const say = outingWords.days;
  const clock = (instant: string) => clockIn(Date.parse(instant), zone);
  const spans = (of: Day["look"]) => of.map(({ start, end }) => say.span(clock(start), clock(end)));
  return [
    say.sun(clockOf(day, "sunrise", zone), clockOf(day, "sunset", zone)),
    say.moon(Math.round(day.lit * 100), spans(day.moon_up)),
    ...day.waters.map((turn) => say.water(turn.high, clock(turn.at), turn.height_m)),
    ...(day.look.length > 0 ? [say.look(spans(day.look))] : []),
  ];
}

/** All of a day in words. */
function dayText(day: Day, zone: string): string {
  return [dayName(day.date), ...(day.why == null ? [] : [withClocks(day.why)]), ...detailsOf(day, zone)].join("; ");
}

function shifted(date: string, days: number): string {
  return new Date(Date.parse(`${date}T12:00:00Z`) + days * DAY).toISOString().slice(0, 10);
}
