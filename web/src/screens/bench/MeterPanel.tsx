import { useRef } from "react";
import { Button } from "react-bootstrap";
import { lazily } from "../../ui/lazily";
import { WatchLight } from "../../parts/lightwatch/WatchLight";
import { SimulatedMeter } from "../../parts/meter/SimulatedMeter";
import type { Exposure, Ladders } from "../../questions/bench";
import { askMeter } from "../../questions/light";
import type { Bench, Laid } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import { staying, useSession } from "../../state/session";
import { useKeys } from "../../ui/useKeys";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";
import { clockOf } from "../../words/clock";
import { markText } from "../../words/times";
import type { Field } from "./Entry";
import { LightMoves } from "./LightMoves";
import { MeteredThrough } from "./MeteredThrough";
import { ForgottenFilter, PhoneMatch } from "./PhoneMatch";
import { Stepper } from "./Stepper";
import { type Dial, stepped } from "./stepping";
import { usePhoneMatch } from "./usePhoneMatch";

const DryMeter = lazily(async () => (await import("../../parts/dryrun/DryMeter")).DryMeter, true);

interface Props {
  laid: Laid;
  ladders: Ladders | undefined;
  answer: Exposure | undefined;
  light: BenchLight;
  /** Nobody has metered yet: what stands here is an example. */
  example: boolean;
  set: (change: Partial<Bench>) => void;
  onType: (field: Field) => void;
  onMeteredWith: () => void;
  onAgain: () => void;
  onSameScene: () => void;
  /** A filter was on at the metering after all, or was not. */
  onThrough: (id: string) => void;
  /** It is as it stands. */
  onSaid: (id: string) => void;
}

/** What the meter says, and what was on the lens while it said so: the first thing one enters. */
export function MeterPanel(props: Props) {
  const { laid, ladders, answer, light, example, set, onType, onMeteredWith, onAgain, onSameScene, onThrough, onSaid } =
    props;
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
  const phone = usePhoneMatch(laid, light);
  const camera = bench.meter === "camera";
  const { practice } = useSession();
  return (
    <section className="bench-meter" aria-labelledby="meter-title">
      <div className="heading-line">
        <h2 id="meter-title">
          {bench.expectedSd === null
            ? words.bench.meterSays
            : words.bench.meterShould(bench.lightAt === null ? null : clockOf(bench.lightAt))}
        </h2>
        {example && <span className="age">{words.bench.example.mark}</span>}
        <Age at={bench.meteredAt} moved={answer?.advice.some((remark) => remark.code === "meter_again") ?? false} />
        <MeterAgain bench={bench} onAgain={onAgain} onSameScene={onSameScene} />
      </div>
      {camera ? (
        <div className="meter-values">
          <Stepper
            what={words.bench.shutter}
            value={bench.shutter}
            fieldRef={shutter}
            onStep={(by) => step((label) => ({ shutter: markText(label) }), "shutter", bench.shutter, by)}
            onType={() => onType("shutter")}
          />
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
      ) : (
        <div className="meter-hand">
          <Stepper
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
      {light.contradicted && (
        <p className="was-it-on">
          {words.light.contradicted(light.outing.name)}{" "}
          <Button variant="link" className="plain-link" onClick={() => set({ skyBelieved: bench.meteredAt })}>
            {words.light.believe}
          </Button>
        </p>
      )}
      {light.unknown && bench.meteredAt !== null && (
        <LightMoves said={bench.saidLight} onSay={(saidLight) => set({ saidLight })} />
      )}
      {practice && <DryMeter laid={laid} set={set} />}
      {camera && <MeteredThrough laid={laid} onThrough={onThrough} onSaid={onSaid} onOthers={onMeteredWith} />}
      <WatchLight known={watchedLight(light)} question={<ForgottenFilter phone={phone} />}>
        <PhoneMatch phone={phone} />
      </WatchLight>
    </section>
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
      <Button variant="link" className="plain-link" onClick={onSameScene}>
        {metered.same(minutes)}
      </Button>
    );
  }
  // Just metered there is nothing to add.
  if (taken !== null && now - taken < FRESH) return null;
  return (
    <Button variant="link" className="plain-link" onClick={onAgain}>
      {taken === null ? metered.first : metered.again}
    </Button>
  );
}

/** What a watching phone saw since the metering. */
function watchedLight({ rate }: BenchLight) {
  if (rate?.moved_stops == null) return null;
  const { moved_stops, moved_sd, weights, steps } = rate;
  return { stops: moved_stops, sd: moved_sd, weights, steps, from: "metering" as const };
}

/** How old the reading is; nothing before the first. */
function Age({ at, moved }: { at: string | null; moved: boolean }) {
  const now = useNow(15_000);
  if (at === null) return null;
  const minutes = Math.floor((now - Date.parse(at)) / 60_000);
  const { metered } = words.bench;
  const text = minutes < 1 ? metered.now : minutes < 60 ? metered.ago(minutes) : metered.old;
  return <span className={moved || minutes >= 10 ? "age age-old" : "age"}>{text}</span>;
}

function evText(ev: number): string {
  return ev.toFixed(1).replace("-", "−");
}
