import { useRef } from "react";
import { Button, ToggleButton, ToggleButtonGroup } from "react-bootstrap";
import { askMeter } from "../../questions/light";
import { say as toast } from "../../ui/say";
import { useKeys } from "../../ui/useKeys";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";
import { markText, timeText } from "../../words/times";
import type { Field } from "./Entry";
import type { Looks } from "../../questions/looks";
import { holdTime } from "../../state/asks";
import { faultText } from "../../ui/faultText";
import { rateText } from "../../words/rate";
import { Pin } from "./Pin";
import { type Bench, type Floating, type Laid, settingsOf } from "../../state/bench";
import { Stepper } from "./Stepper";
import type { Exposure, Ladders } from "../../questions/bench";
import type { BenchLight } from "../../state/benchLight";

interface Props {
  laid: Laid;
  ladders: Ladders | undefined;
  answer: Exposure | undefined;
  /** The answer to what stands there now; only from this a time is stepped. */
  fresh: Exposure | undefined;
  set: (change: Partial<Bench>) => void;
  float: (what: Floating) => void;
  onType: (field: Field) => void;
  onSetUp: () => void;
  onLooks: () => void;
  onLight: () => void;
  light: BenchLight;
  looks: Looks | undefined;
}

/** What was metered and what will be set, each by step or by typing. */
export function ReadingPanel({
  laid,
  ladders,
  answer,
  fresh,
  set,
  float,
  onType,
  onSetUp,
  onLooks,
  onLight,
  light,
  looks,
}: Props) {
  const { bench } = laid;
  const shutter = useRef<HTMLButtonElement>(null);
  const aperture = useRef<HTMLButtonElement>(null);
  const iso = useRef<HTMLButtonElement>(null);
  const shotAperture = useRef<HTMLButtonElement>(null);
  const shotIso = useRef<HTMLButtonElement>(null);
  const time = useRef<HTMLButtonElement>(null);
  useKeys("s", () => shutter.current?.focus());
  useKeys("a", () => aperture.current?.focus());
  useKeys("i", () => iso.current?.focus());
  useKeys("f", () => shotAperture.current?.focus());
  useKeys("o", () => shotIso.current?.focus());
  useKeys("t", () => time.current?.focus());

  const through = laid.stack.filter((glass) => bench.inReading.includes(glass.id));
  const title = through.length
    ? words.bench.reading.through(through.map((glass) => glass.name).join(", "))
    : words.bench.reading.bare;
  const step = (change: (label: string) => Partial<Bench>, dial: keyof Ladders, value: string, by: 1 | -1) => {
    const next = ladders && stepped(ladders[dial], value, by);
    if (next) set(change(next));
  };
  const shot = settingsOf(laid);
  const held = bench.targetSeconds ?? answer?.set_seconds;
  const stepTime = (by: 1 | -1) => {
    // Until dial and time are known there is nothing to step along.
    const from = bench.targetSeconds ?? fresh?.set_seconds;
    const next = from === undefined || !ladders ? undefined : times(ladders).find(beyond(from, by), by);
    if (next !== undefined) set(holdTime(laid, next));
  };
  const pin = (what: Floating) => (
    <Pin what={words.pins.what[what]} floats={bench.floating === what} onFloat={() => float(what)} />
  );
  const follows = bench.shotAperture === null && bench.shotIso === null;

  return (
    <section className="bench-reading" aria-labelledby="reading-title">
      <div className="heading-line">
        <h2 id="reading-title">{title}</h2>
        {pin("reading")}
      </div>
      <ToggleButtonGroup
        type="radio"
        name="meter"
        className="segments"
        aria-label={words.bench.meter.label}
        value={bench.meter}
        onChange={(meter: Bench["meter"]) => set({ meter })}
      >
        <ToggleButton id="meter-camera" value="camera" variant="segment">
          {words.bench.meter.camera}
        </ToggleButton>
        <ToggleButton id="meter-hand" value="hand" variant="segment">
          {words.bench.meter.hand}
        </ToggleButton>
      </ToggleButtonGroup>
      {bench.meter === "camera" ? (
        <>
          <Stepper
            what={words.bench.shutter}
            value={bench.shutter}
            size="large"
            fieldRef={shutter}
            onStep={(by) => step((label) => ({ shutter: markText(label) }), "shutter", bench.shutter, by)}
            onType={() => onType("shutter")}
          />
          <div className="pair">
            <Stepper
              what={words.bench.aperture}
              value={`f/${bench.aperture}`}
              fieldRef={aperture}
              onStep={(by) => step((label) => ({ aperture: label }), "aperture", bench.aperture, by)}
              onType={() => onType("aperture")}
            />
            <Stepper
              what={words.bench.iso}
              value={bench.iso}
              caption={words.bench.iso}
              fieldRef={iso}
              onStep={(by) => step((label) => ({ iso: label }), "iso", bench.iso, by)}
              onType={() => onType("iso")}
            />
          </div>
        </>
      ) : (
        <>
          <Stepper
            what={words.bench.ev}
            value={evText(bench.ev100)}
            caption={words.bench.ev}
            size="large"
            fieldRef={shutter}
            onStep={(by) => set({ ev100: Math.round((bench.ev100 + by / 10) * 10) / 10 })}
            onType={() => onType("ev")}
          />
          <SimulatedMeter light={light} onRead={(ev100) => set({ ev100 })} />
        </>
      )}
      <Age
        at={bench.meteredAt}
        moved={answer?.advice.some((remark) => remark.code === "meter_again") ?? false}
        onAgain={() => set({ meteredAt: new Date().toISOString() })}
      />

      <div className="heading-line">
        <h2>{words.bench.shoot}</h2>
        {follows ? (
          bench.meter === "camera" && <span className="quiet">{words.bench.asMetered}</span>
        ) : (
          <Button variant="link" className="plain-link" onClick={() => set({ shotAperture: null, shotIso: null })}>
            {words.bench.backToMetered}
          </Button>
        )}
      </div>
      <div className="pinned">
        {laid.fixedAperture === null ? (
          <Stepper
            what={`${words.bench.shoot} ${words.bench.aperture.toLowerCase()}`}
            caption={words.bench.aperture.toLowerCase()}
            value={`f/${shot.aperture}`}
            fieldRef={shotAperture}
            onStep={(by) => step((label) => ({ shotAperture: label }), "aperture", shot.aperture, by)}
            onType={() => onType("shotAperture")}
          />
        ) : (
          <p className="fixed-value">
            <strong>f/{shot.aperture}</strong> {words.bench.fixedBy(laid.body?.name ?? "")}
          </p>
        )}
        {laid.fixedAperture === null && pin("aperture")}
        {laid.fixedIso === null ? (
          <Stepper
            what={`${words.bench.shoot} ${words.bench.iso}`}
            caption={words.bench.iso}
            value={shot.iso}
            fieldRef={shotIso}
            onStep={(by) => step((label) => ({ shotIso: label }), "iso", shot.iso, by)}
            onType={() => onType("shotIso")}
          />
        ) : (
          <p className="fixed-value">
            <strong>ISO {shot.iso}</strong> {words.bench.fixedBy(laid.film?.name ?? "")}
          </p>
        )}
        {laid.fixedIso === null && pin("iso")}
        <Stepper
          what={words.bench.time}
          value={held === undefined ? "–" : timeText(held)}
          fieldRef={time}
          onStep={stepTime}
          onType={() => onType("time")}
        />
        {pin("time")}
      </div>

      <Button variant="quiet" className="set-up-line" onClick={onSetUp}>
        <span>{words.setUp.title}</span>
        <strong>
          {words.setUp.summary(
            laid.body?.name ?? words.setUp.noBody,
            laid.lens ? `${laid.focalMm} mm` : "",
            bench.scale === "exact" ? "" : words.bench.scales.as_marked,
          )}
        </strong>
      </Button>
      <Button variant="quiet" className="set-up-line" onClick={onLight}>
        <span>{words.light.title}</span>
        <strong>{lightSaid(light)}</strong>
      </Button>
      <Button variant="quiet" className="set-up-line" onClick={onLooks}>
        <span>{words.looks.title}</span>
        <strong>{wishes(bench, looks)}</strong>
      </Button>
    </section>
  );
}

/** The hand meter that ships, for practice: it follows the current outing's sky. */
function SimulatedMeter({ light, onRead }: { light: BenchLight; onRead: (ev100: number) => void }) {
  const { latitude, longitude, sky } = light.outing;
  const read = async () => {
    const body = { latitude, longitude, sky, seed: 1, at: new Date(light.at).toISOString() };
    try {
      onRead(await askMeter(body));
    } catch (error) {
      toast({ text: faultText(error) });
    }
  };
  return (
    <Button variant="quiet" onClick={() => void read()}>
      {words.meter}
    </Button>
  );
}

function lightSaid({ plausible, seen }: BenchLight): string {
  const say = words.light;
  if (plausible) return rateText(plausible.stops_per_minute);
  return seen ? say.seen : say.steady;
}

function wishes(bench: Bench, looks: Looks | undefined): string {
  const { wants } = bench.scene;
  if (wants.length === 0) return words.looks.noWish;
  if (looks?.conflict) return words.looks.conflict;
  return wants.map((want) => words.looks.wished(want.look, want.kind)).join(", ");
}

function Age({ at, moved, onAgain }: { at: string | null; moved: boolean; onAgain: () => void }) {
  const now = useNow(15_000);
  const minutes = at === null ? null : Math.floor((now - Date.parse(at)) / 60_000);
  const text =
    minutes === null
      ? words.bench.metered.never
      : minutes < 1
        ? words.bench.metered.now
        : minutes < 60
          ? words.bench.metered.ago(minutes)
          : words.bench.metered.old;
  return (
    <div className="age">
      <span className={moved || minutes === null || minutes >= 10 ? "age-old" : ""}>{text}</span>
      <Button variant="quiet" size="sm" onClick={onAgain}>
        {words.bench.metered.again}
      </Button>
    </div>
  );
}

function evText(ev: number): string {
  return ev.toFixed(1).replace("-", "−");
}

/** The times one steps through: the dial's marks, then whole minutes as people say them. */
function times(ladders: Ladders): {
  find: (test: (seconds: number) => boolean, by: 1 | -1) => number | undefined;
} {
  const dial = ladders.shutter.map((mark) => mark.exact);
  const all = [...dial, ...MINUTES.map((minutes) => minutes * 60).filter((seconds) => seconds > (dial.at(-1) ?? 0))];
  return { find: (test, by) => (by > 0 ? all.find(test) : all.findLast(test)) };
}

const MINUTES = [1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 12, 15, 20, 30, 45, 60, 90, 120, 180, 240];
const SAME_TIME = 1.001;

function beyond(seconds: number, by: 1 | -1): (other: number) => boolean {
  return (other) => (by > 0 ? other > seconds * SAME_TIME : other < seconds / SAME_TIME);
}

/** The next mark in the direction; a literal value steps to the nearest mark that way. */
function stepped(marks: Ladders["shutter"], value: string, by: 1 | -1): string | undefined {
  const bare = value.replace(/\s*s$/, "");
  const at = marks.findIndex((mark) => mark.label === bare);
  if (at >= 0) return marks[at + by]?.label;
  const number = spelled(bare);
  const beyond = by > 0 ? marks.find((mark) => mark.exact > number) : marks.findLast((mark) => mark.exact < number);
  return beyond?.label;
}

function spelled(text: string): number {
  const [top = "0", bottom] = text.split("/");
  return bottom === undefined ? Number(top) : Number(top) / Number(bottom);
}
