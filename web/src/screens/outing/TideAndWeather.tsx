import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import type { Schemas } from "../../api/client";
import { askFeed } from "../../questions/light";
import { change, isRemoved, MOST_SKIES, type Outing, span, standing } from "../../state/outings";
import { staying } from "../../state/session";
import { ClockField } from "../../ui/ClockField";
import { Fault } from "../../ui/Fault";
import { KnownNumber } from "../../ui/NumberField";
import { say as toast } from "../../ui/say";
import { typed } from "../../ui/typed";
import { bagWords } from "../../words/bag";
import { outingWords } from "../../words/outing";
import { wallTime } from "../../words/zone";
import { tideOf, weatherOf } from "./planSentences";
import { Sentence } from "./Sentence";

const WEATHER = [
  ["celsius", "celsius"],
  ["wind_m_s", "wind"],
  ["wind_from_deg", "windFrom"],
  ["cloud_m", "cloud"],
  ["swell_m", "swell"],
] as const;
const MOST_WATERS = 8;

interface Props {
  outing: Outing;
  set: (change: Partial<Outing>) => void;
  /** What each water is by the others; null where they do not tell. */
  kinds: readonly (WaterKind | null)[];
}

type WaterKind = Schemas["WaterKind"];
const KINDS = ["high", "low"] as const;

/** High and low waters and the weather: typed from one's own tables, or the simulated feed, and always marked which. */
export function TideAndWeather({ outing, set, kinds }: Props) {
  const say = outingWords;
  // The number fields hold what is being typed; a feed replaces them all.
  const [filled, setFilled] = useState(0);
  const [fault, setFault] = useState<unknown>(null);
  const simulated =
    outing.weather.source === "simulated" || outing.waters.some((water) => water.source === "simulated");
  const fill = async () => {
    const here = staying();
    try {
      const there = !isRemoved(outing);
      const [waters, weather, skies] = await fed(outing);
      here();
      if (there && isRemoved(outing)) return;
      const takeBack = change(outing, { waters, weather, ...skies });
      setFilled((count) => count + 1);
      setFault(null);
      const undo = () => {
        takeBack();
        setFilled((count) => count + 1);
      };
      toast({ text: say.feedTaken, action: { label: bagWords.undo, act: undo } });
    } catch (error) {
      setFault(error);
    }
  };
  return (
    <div className="outing-tide" key={filled}>
      {simulated && <p className="simulated">{say.feedUsed}</p>}
      <Sentence text={tideOf(outing)}>
        <p className="quiet">{say.tideWhy}</p>
        {outing.waters.map((water, at) => (
          <div className="tide-row" key={at}>
            <ClockField
              label={say.waterTime(at + 1)}
              value={water.time}
              onValue={(time) => {
                if (time) set({ waters: outing.waters.with(at, { ...water, time, source: "own" }) });
              }}
            />
            <Form.Control
              inputMode="decimal"
              aria-label={say.waterHeight(at + 1)}
              defaultValue={water.height_m}
              onChange={(event) => {
                const height_m = typed(event.target.value);
                if (height_m !== undefined)
                  set({ waters: outing.waters.with(at, { ...water, height_m, source: "own" }) });
              }}
            />
            <Form.Select
              aria-label={say.waterKind(at + 1)}
              value={water.kind ?? ""}
              data-untold={(water.kind == null && kinds[at] == null) || undefined}
              onChange={({ target }) => {
                const kind = target.value === "" ? null : (target.value as WaterKind);
                set({ waters: outing.waters.with(at, { ...water, kind }) });
              }}
            >
              <option value="">{toldBy(kinds[at] ?? null)}</option>
              {KINDS.map((kind) => (
                <option key={kind} value={kind}>
                  {say.waterKinds[kind]}
                </option>
              ))}
            </Form.Select>
            <Button
              variant="quiet"
              aria-label={`${bagWords.rowRemove}: ${at + 1}`}
              onClick={() => {
                set({ waters: outing.waters.filter((_, each) => each !== at) });
                setFilled(filled + 1);
              }}
            >
              ×
            </Button>
          </div>
        ))}
        <Button
          variant="quiet"
          disabled={outing.waters.length >= MOST_WATERS}
          onClick={() => set({ waters: [...outing.waters, { time: "12:00", height_m: 1, source: "own", kind: null }] })}
        >
          {say.waterAdd}
        </Button>
        <div className="thirds">
          <KnownNumber
            id="outing-floods"
            label={say.floods}
            value={outing.floods_at_m}
            onValue={(metres) => set({ floods_at_m: metres ?? null })}
          />
          <KnownNumber
            id="outing-walk"
            label={say.walk}
            value={outing.walk_minutes}
            onValue={(walk_minutes) => {
              if (walk_minutes !== undefined) set({ walk_minutes });
            }}
          />
          <KnownNumber
            id="outing-margin"
            label={say.margin}
            value={outing.margin_minutes}
            onValue={(margin_minutes) => {
              if (margin_minutes !== undefined) set({ margin_minutes });
            }}
          />
        </div>
      </Sentence>
      <Sentence text={weatherOf(outing)}>
        <div className="thirds">
          {WEATHER.map(([field, label]) => (
            <KnownNumber
              key={field}
              id={`outing-${field}`}
              label={say.weather[label]}
              value={outing.weather[field]}
              onValue={(value) => set({ weather: { ...outing.weather, [field]: value ?? null, source: "own" } })}
            />
          ))}
        </div>
      </Sentence>
      <Button variant="quiet" size="sm" onClick={() => void fill()}>
        {say.feed}
      </Button>
      <Fault error={fault} />
    </div>
  );
}

function toldBy(kind: WaterKind | null): string {
  return kind === null ? outingWords.waterUntold : outingWords.waterTold(outingWords.waterKinds[kind]);
}

/** What the feed says of an outing; asked once more where that was planned for elsewhere or another time meanwhile. */
async function fed(outing: Outing): Promise<ReturnType<typeof fromFeed>> {
  const said = await askFeed(feedOf(outing));
  const now = standing(outing);
  return JSON.stringify(feedOf(now)) === JSON.stringify(feedOf(outing)) ? fromFeed(said, now) : fed(now);
}

function feedOf(outing: Outing): Schemas["FeedInput"] {
  const [from, to] = span(outing);
  const { latitude, longitude } = outing;
  return { latitude, longitude, from: new Date(from).toISOString(), to: new Date(to).toISOString() };
}

/** The feed's waters by the place's clock, its weather in the middle of the outing, and its sky as it changes. */
function fromFeed(
  feed: Schemas["FeedAnswer"],
  outing: Outing,
): [Outing["waters"], Outing["weather"], Pick<Outing, "sky" | "skies">] {
  const waters = feed.waters.slice(0, MOST_WATERS).map((water) => ({
    time: wallTime(Date.parse(water.at), outing.zone),
    height_m: water.height_m,
    kind: water.kind,
    source: "simulated" as const,
  }));
  const hour = feed.weather[Math.floor(feed.weather.length / 2)];
  const first = feed.weather[0];
  if (!hour || !first) return [waters, outing.weather, { sky: outing.sky, skies: outing.skies }];
  const { celsius, wind_m_s, wind_from_deg, cloud_m, swell_m } = hour;
  const skies = feed.weather
    .filter(({ sky }, at) => at > 0 && sky !== feed.weather[at - 1]?.sky)
    .slice(0, MOST_SKIES)
    .map(({ at, sky }) => ({ time: wallTime(Date.parse(at), outing.zone), sky }));
  const weather = { celsius, wind_m_s, wind_from_deg, cloud_m, swell_m, source: "simulated" as const };
  return [waters, weather, { sky: first.sky, skies }];
}
