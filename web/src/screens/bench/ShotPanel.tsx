import { useRef } from "react";
import { Button } from "react-bootstrap";
import type { Exposure, Ladders } from "../../questions/bench";
import type { Looks } from "../../questions/looks";
import { holdTime } from "../../state/asks";
import { type Bench, type Laid, settingsOf } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import { useKeys } from "../../ui/useKeys";
import { words } from "../../words";
import { rateText } from "../../words/rate";
import { sumTime } from "../../words/times";
import type { Field } from "./Entry";
import { purposeText } from "./purposeText";
import { Stepper } from "./Stepper";
import { type Dial, nextTime, stepped } from "./stepping";

interface Props {
  laid: Laid;
  ladders: Ladders | undefined;
  answer: Exposure | undefined;
  /** The answer to what stands there now; only from this a time is stepped. */
  fresh: Exposure | undefined;
  light: BenchLight;
  looks: Looks | undefined;
  set: (change: Partial<Bench>) => void;
  onType: (field: Field) => void;
  onOpen: (panel: "light" | "setUp" | "looks" | "purpose" | "extras") => void;
}

/** What the frame is shot at, and the lines behind which gear, light, looks and the rest stand. */
export function ShotPanel({ laid, ladders, answer, fresh, light, looks, set, onType, onOpen }: Props) {
  const { bench } = laid;
  const aperture = useRef<HTMLButtonElement>(null);
  const iso = useRef<HTMLButtonElement>(null);
  const time = useRef<HTMLButtonElement>(null);
  useKeys("f", () => aperture.current?.focus());
  useKeys("o", () => iso.current?.focus());
  useKeys("t", () => time.current?.focus());
  const shot = settingsOf(laid);
  const follows = bench.shotAperture === null && bench.shotIso === null;
  const used = bench.targetSeconds ?? answer?.set_seconds;
  const stepTime = (by: 1 | -1) => {
    // Until dial and time are known there is nothing to step along.
    const from = bench.targetSeconds ?? fresh?.set_seconds;
    const next = from === undefined || !ladders ? undefined : nextTime(ladders, from, by);
    if (next !== undefined) set(holdTime(next));
  };
  const step = (key: "shotAperture" | "shotIso", dial: Dial, value: string, by: 1 | -1) => {
    const next = ladders && stepped(ladders[dial], value, by);
    if (next) set({ [key]: next });
  };
  const sameAsMetered = bench.meter === "camera" && follows;
  return (
    <section className="bench-shot" aria-labelledby="shot-title">
      <div className="heading-line">
        <h2 id="shot-title">{words.bench.shoot}</h2>
        {sameAsMetered && <span className="quiet">{words.bench.asMetered}</span>}
        {!follows && (
          <Button variant="link" className="plain-link" onClick={() => set({ shotAperture: null, shotIso: null })}>
            {words.bench.backToMetered}
          </Button>
        )}
      </div>
      <div className="shot-values">
        {laid.fixedAperture === null ? (
          <Stepper
            what={`${words.bench.shoot}: ${words.bench.aperture.toLowerCase()}`}
            caption={bench.floating === "aperture" ? words.workOut.here : words.bench.aperture.toLowerCase()}
            value={`f/${shot.aperture}`}
            fieldRef={aperture}
            onStep={(by) => step("shotAperture", "aperture", shot.aperture, by)}
            onType={() => onType("shotAperture")}
          />
        ) : (
          <p className="fixed-value">
            <strong>f/{shot.aperture}</strong> {words.bench.fixedBy(laid.body?.name ?? "")}
          </p>
        )}
        {laid.fixedIso === null ? (
          <Stepper
            what={`${words.bench.shoot}: ${words.bench.iso}`}
            caption={bench.floating === "iso" ? words.workOut.here : words.bench.iso}
            value={shot.iso}
            fieldRef={iso}
            onStep={(by) => step("shotIso", "iso", shot.iso, by)}
            onType={() => onType("shotIso")}
          />
        ) : (
          <p className="fixed-value">
            <strong>ISO {shot.iso}</strong> {words.bench.fixedBy(laid.film?.name ?? "")}
          </p>
        )}
        <Stepper
          what={words.bench.time}
          value={used === undefined ? "–" : sumTime(used, laid.dialLimit)}
          fieldRef={time}
          onStep={stepTime}
          onType={() => onType("time")}
        />
      </div>
      <div className="bench-lines">
        <Line title={words.light.title} onOpen={() => onOpen("light")}>
          {lightSaid(light)}
        </Line>
        <Line title={words.looks.title} onOpen={() => onOpen("looks")}>
          {wishes(bench, looks)}
        </Line>
        <Line title={words.purpose.title} onOpen={() => onOpen("purpose")}>
          {purposeText(bench)}
        </Line>
        <Line title={words.setUp.title} onOpen={() => onOpen("setUp")}>
          {words.setUp.summary(
            laid.body?.name ?? words.setUp.noBody,
            laid.lens ? `${laid.focalMm} mm` : "",
            bench.scale === "exact" ? "" : words.bench.scales.as_marked,
          )}
        </Line>
        <Line title={words.extras.title} onOpen={() => onOpen("extras")}>
          {words.extras.open}
        </Line>
      </div>
    </section>
  );
}

/** A line that says how something stands and opens where it is changed. */
function Line({ title, children, onOpen }: { title: string; children: string; onOpen: () => void }) {
  return (
    <Button variant="quiet" className="bench-line" onClick={onOpen}>
      <span>{title}</span>
      <strong>{children}</strong>
    </Button>
  );
}

function lightSaid({ plausible, fits, rate, watch }: BenchLight): string {
  const say = words.light;
  if (watch && rate?.moved_stops != null) return `${rateText(rate.stops_per_minute)} · ${say.watched}`;
  if (rate?.counts) return `${rateText(rate.stops_per_minute)} · ${say.readings(rate.used)}`;
  if (plausible) return rateText(plausible.stops_per_minute);
  return fits ? say.seen : say.steady;
}

function wishes(bench: Bench, looks: Looks | undefined): string {
  const { wants } = bench.scene;
  if (wants.length === 0) return words.looks.noWish;
  if (looks?.conflict) return words.looks.conflict;
  return wants.map((want) => words.looks.wished(want.look, want.kind)).join(", ");
}
