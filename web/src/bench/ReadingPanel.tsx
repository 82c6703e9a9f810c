import { useRef } from "react";
import { Button, ToggleButton, ToggleButtonGroup } from "react-bootstrap";
import { useKeys } from "../shell/useKeys";
import { useNow } from "../shell/useNow";
import { words } from "../words";
import { markText } from "../words/times";
import type { Field } from "./Entry";
import { type Bench, stackOf } from "./state";
import { Stepper } from "./Stepper";
import type { Ladders } from "./useBench";

interface Props {
  bench: Bench;
  ladders: Ladders | undefined;
  set: (change: Partial<Bench>) => void;
  onType: (field: Field) => void;
  onBody: () => void;
}

/** What was metered and what will be set, each by step or by typing. */
export function ReadingPanel({ bench, ladders, set, onType, onBody }: Props) {
  const shutter = useRef<HTMLButtonElement>(null);
  const aperture = useRef<HTMLButtonElement>(null);
  const iso = useRef<HTMLButtonElement>(null);
  const shotAperture = useRef<HTMLButtonElement>(null);
  const shotIso = useRef<HTMLButtonElement>(null);
  useKeys("s", () => shutter.current?.focus());
  useKeys("a", () => aperture.current?.focus());
  useKeys("i", () => iso.current?.focus());
  useKeys("f", () => shotAperture.current?.focus());
  useKeys("o", () => shotIso.current?.focus());

  const through = stackOf(bench).filter((glass) => bench.inReading.includes(glass.id));
  const title = through.length
    ? words.bench.reading.through(through.map((glass) => glass.name).join(", "))
    : words.bench.reading.bare;
  const step = (change: (label: string) => Partial<Bench>, dial: keyof Ladders, value: string, by: 1 | -1) => {
    const next = ladders && stepped(ladders[dial], value, by);
    if (next) set(change(next));
  };
  const follows = bench.shotAperture === null && bench.shotIso === null;

  return (
    <section className="bench-reading" aria-labelledby="reading-title">
      <h2 id="reading-title">{title}</h2>
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
        <Stepper
          what={words.bench.ev}
          value={evText(bench.ev100)}
          caption={words.bench.ev}
          size="large"
          fieldRef={shutter}
          onStep={(by) => set({ ev100: Math.round((bench.ev100 + by / 10) * 10) / 10 })}
          onType={() => onType("ev")}
        />
      )}
      <Age at={bench.meteredAt} onAgain={() => set({ meteredAt: new Date().toISOString() })} />

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
      <div className="pair">
        <Stepper
          what={`${words.bench.shoot} ${words.bench.aperture.toLowerCase()}`}
          caption={words.bench.aperture.toLowerCase()}
          value={`f/${bench.shotAperture ?? bench.aperture}`}
          fieldRef={shotAperture}
          onStep={(by) =>
            step((label) => ({ shotAperture: label }), "aperture", bench.shotAperture ?? bench.aperture, by)
          }
          onType={() => onType("shotAperture")}
        />
        <Stepper
          what={`${words.bench.shoot} ${words.bench.iso}`}
          caption={words.bench.iso}
          value={bench.shotIso ?? bench.iso}
          fieldRef={shotIso}
          onStep={(by) => step((label) => ({ shotIso: label }), "iso", bench.shotIso ?? bench.iso, by)}
          onType={() => onType("shotIso")}
        />
      </div>

      <div className="body-line">
        <h2>{words.bench.body}</h2>
        <Button variant="quiet" onClick={onBody}>
          {words.bench.bodySummary(
            words.bench.steps[bench.step],
            markText(String(bench.dialLimit)),
            words.bench.scales[bench.scale],
          )}
        </Button>
      </div>
    </section>
  );
}

function Age({ at, onAgain }: { at: string | null; onAgain: () => void }) {
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
      <span className={minutes === null || minutes >= 10 ? "age-old" : ""}>{text}</span>
      <Button variant="quiet" size="sm" onClick={onAgain}>
        {words.bench.metered.again}
      </Button>
    </div>
  );
}

function evText(ev: number): string {
  return ev.toFixed(1).replace("-", "−");
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
