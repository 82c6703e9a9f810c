import { useRef } from "react";
import { Button } from "react-bootstrap";
import { SimulatedMeter } from "../../parts/meter/SimulatedMeter";
import type { Ladders } from "../../questions/bench";
import { askMeter } from "../../questions/light";
import type { Bench, Laid } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import { staying, useSession } from "../../state/session";
import { Value } from "../../ui/kinds/Value";
import { lazily } from "../../ui/lazily";
import { useKeys } from "../../ui/useKeys";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";
import { clockOf } from "../../words/clock";
import { markText, shortStops } from "../../words/times";
import type { Field } from "./Entry";
import { type Dial, stepped } from "./stepping";

const DryMeter = lazily(async () => (await import("../../parts/dryrun/DryMeter")).DryMeter, true);

interface Props {
  laid: Laid;
  ladders: Ladders | undefined;
  light: BenchLight;
  /** Nobody has metered yet: what stands here is an example. */
  example: boolean;
  /** Whether the light has moved since so far that it is worth another reading. */
  moved: boolean;
  set: (change: Partial<Bench>) => void;
  onType: (field: Field) => void;
  onMeteredWith: () => void;
  onAgain: () => void;
  onSameScene: () => void;
}

/** What the meter says, and what was on the lens while it said so: the first thing one enters. */
export function MeterValues(props: Props) {
  const { laid, ladders, light, example, moved, set, onType, onMeteredWith, onAgain, onSameScene } = props;
  const { bench } = laid;
  const shutter = useRef<HTMLButtonElement>(null);
  const aperture = useRef<HTMLButtonElement>(null);
  const iso = useRef<HTMLButtonElement>(null);
  useKeys("s", () => shutter.current?.focus());
  useKeys("a", () => aperture.current?.focus());
  useKeys("i", () => iso.current?.focus());
  const step = (change: (label: string) => Partial<Bench>, dial: Dial, value: string, by: 1 | -1) => {
    const next = ladders && stepped(ladders[dial], value, by);
    if (next) set(change(next));
  };
  const read = async () => {
    const { latitude, longitude, sky } = light.outing;
    const here = staying();
    const ev100 = await askMeter({ latitude, longitude, sky, seed: 1, at: new Date(light.at).toISOString() });
    here();
    set({ ev100 });
  };
  const { practice } = useSession();
  return (
    <section className="bench-meter" aria-labelledby="meter-title">
      <div className="meter-head">
        <h2 id="meter-title">
          {bench.expectedSd === null
            ? words.bench.meterSays
            : words.bench.meterShould(bench.lightAt === null ? null : clockOf(bench.lightAt))}
        </h2>
        <button type="button" className="meter-through" onClick={onMeteredWith}>
          <Age at={bench.meteredAt} example={example} moved={moved} />
          <span>{throughText(laid)}</span>
        </button>
        <MeterAgain bench={bench} onAgain={onAgain} onSameScene={onSameScene} />
      </div>
      {bench.meter === "camera" ? (
        <div className="meter-values" role="group" aria-label={words.entry.reading}>
          <Value
            what={words.bench.shutter}
            value={bench.shutter}
            fieldRef={shutter}
            onStep={(by) => step((label) => ({ shutter: markText(label) }), "shutter", bench.shutter, by)}
            onType={() => onType("shutter")}
          />
          <Value
            what={words.bench.aperture}
            value={`f/${bench.aperture}`}
            fieldRef={aperture}
            onStep={(by) => step((label) => ({ aperture: label }), "aperture", bench.aperture, by)}
            onType={() => onType("aperture")}
          />
          <Value
            what={words.bench.iso}
            value={bench.iso}
            caption={words.bench.iso}
            fieldRef={iso}
            onStep={(by) => step((label) => ({ iso: label }), "iso", bench.iso, by)}
            onType={() => onType("iso")}
          />
        </div>
      ) : (
        <div className="meter-values">
          <Value
            what={words.bench.ev}
            value={evText(bench.ev100)}
            caption={words.bench.ev}
            fieldRef={shutter}
            onStep={(by) => set({ ev100: Math.round((bench.ev100 + by / 10) * 10) / 10 })}
            onType={() => onType("ev")}
          />
          {!practice && <SimulatedMeter read={read} />}
        </div>
      )}
      {practice && <DryMeter laid={laid} set={set} />}
    </section>
  );
}

/** What was on while metering, in a few words. */
function throughText({ through }: Laid): string {
  const say = words.bench;
  if (through.length === 0) return say.throughNone;
  return say.through(
    through
      .map(({ name, kind, stops }) => (kind === "variable" ? say.wasTurned(name, shortStops(stops)) : name))
      .join(", "),
  );
}

/** How long it is asked whether a reading is of the scene before, and how long one is no older than "just now" [ms]. */
const ASKED_FOR = 3 * 60_000;
const FRESH = 60_000;

/** One more reading of the same scene, or the question whether it was one: two of them say how the light moves. */
function MeterAgain({ bench, onAgain, onSameScene }: { bench: Bench } & Pick<Props, "onAgain" | "onSameScene">) {
  const now = useNow(15_000);
  const { metered } = words.bench;
  const last = bench.before.at(-1);
  const taken = bench.meteredAt === null ? null : Date.parse(bench.meteredAt);
  if (last && taken !== null && now - taken < ASKED_FOR) {
    const minutes = Math.max(1, Math.round((taken - Date.parse(last.at)) / 60_000));
    return (
      <Button variant="quiet" onClick={onSameScene}>
        {metered.same(minutes)}
      </Button>
    );
  }
  // Just metered there is nothing to add.
  if (taken !== null && now - taken < FRESH) return null;
  return (
    <Button variant="quiet" onClick={onAgain}>
      {metered.first}
    </Button>
  );
}

/** How old the reading is; that it is an example before the first. */
function Age({ at, example, moved }: { at: string | null; example: boolean; moved: boolean }) {
  const now = useNow(15_000);
  if (at === null) return example ? <span className="age">{words.bench.example.mark}, </span> : null;
  const minutes = Math.floor((now - Date.parse(at)) / 60_000);
  const { metered } = words.bench;
  const text = minutes < 1 ? metered.now : minutes < 60 ? metered.ago(minutes) : metered.old;
  return <span className={moved || minutes >= 10 ? "age age-old" : "age"}>{text}, </span>;
}

function evText(ev: number): string {
  return ev.toFixed(1).replace("-", "−");
}
