import { useEffect, useRef } from "react";
import { Button } from "react-bootstrap";
import type { Exposure, Ladders } from "../../questions/bench";
import { holdTime } from "../../state/asks";
import { type Bench, type Laid, settingsOf } from "../../state/bench";
import { Value } from "../../ui/kinds/Value";
import { useKeys } from "../../ui/useKeys";
import { words } from "../../words";
import { sumTime } from "../../words/times";
import type { Field } from "./Entry";
import { type Dial, nextTime, stepped } from "./stepping";

interface Props {
  laid: Laid;
  ladders: Ladders | undefined;
  answer: Exposure | undefined;
  /** The answer to what stands there now; only from this a time is stepped. */
  fresh: Exposure | undefined;
  set: (change: Partial<Bench>) => void;
  onType: (field: Field) => void;
  /** Which of them is to be reached first. */
  first: ShotField | null;
}

export type ShotField = "aperture" | "iso" | "time";

/** What the frame is shot at, where that differs from what was metered. */
export function ShotValues({ laid, ladders, answer, fresh, set, onType, first }: Props) {
  const { bench } = laid;
  const aperture = useRef<HTMLButtonElement>(null);
  const iso = useRef<HTMLButtonElement>(null);
  const time = useRef<HTMLButtonElement>(null);
  useKeys("f", () => aperture.current?.focus());
  useKeys("o", () => iso.current?.focus());
  useKeys("t", () => time.current?.focus());
  // Opened for one of them, that one takes the keys.
  useEffect(() => {
    if (first === "aperture") aperture.current?.focus();
    if (first === "iso") iso.current?.focus();
    if (first === "time") time.current?.focus();
  }, [first]);
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
        <h3 id="shot-title">{words.bench.shoot}</h3>
        {sameAsMetered && <span className="quiet">{words.bench.asMetered}</span>}
        {!follows && (
          <Button variant="quiet" onClick={() => set({ shotAperture: null, shotIso: null })}>
            {words.bench.backToMetered}
          </Button>
        )}
      </div>
      <div className="shot-values">
        {laid.fixedAperture === null ? (
          <Value
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
          <Value
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
        <Value
          what={words.bench.time}
          value={used === undefined ? "–" : sumTime(used, laid.dialLimit)}
          fieldRef={time}
          onStep={stepTime}
          onType={() => onType("time")}
        />
      </div>
    </section>
  );
}
