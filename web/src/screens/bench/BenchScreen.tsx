import { type ReactNode, useEffect, useState } from "react";
import { Button } from "react-bootstrap";
import { bandsOf } from "../../parts/looks/bands";
import { RenderingList } from "../../parts/looks/RenderingList";
import { Staff } from "../../parts/staff/Staff";
import { type Exposure, type Ladders, useExposure, useLadders, useRig, useSteer } from "../../questions/bench";
import { type Looks, useLooks, useRenderings } from "../../questions/looks";
import { exposureOf, looksOf, sceneOf, steerOf, wishedSum } from "../../state/asks";
import {
  type Bench,
  type Floating as What,
  hasAperture,
  isReading,
  type Laid,
  type Move,
  settingsOf,
  useBench,
} from "../../state/bench";
import { useFinished } from "../../state/frames";
import { type BenchLight, useBenchLight } from "../../state/benchLight";
import { useHabits } from "../../state/habits";
import { forgetItem, useKit } from "../../state/kit";
import { looks as ownLooks } from "../../state/looks";
import { toggledWant, type Want } from "../../state/scene";
import { DEMO, useSession } from "../../state/session";
import { isLent } from "../../state/starter";
import { Fault } from "../../ui/Fault";
import { say } from "../../ui/say";
import { useKeys } from "../../ui/useKeys";
import { useMeasured } from "../../ui/useMeasured";
import { words } from "../../words";
import { clockOf } from "../../words/clock";
import { AdviceList } from "./AdviceList";
import { Alternatives, type Target } from "./Alternatives";
import { Answer, Sum } from "./Answer";
import { rigOf } from "./asks";
import {
  AddGlass,
  Drawing,
  Entry,
  Extras,
  LastFinding,
  LightDialog,
  LooksDialog,
  MeteredWith,
  NameStack,
  OwnBag,
  PurposeDialog,
  SetUp,
} from "./dialogs";
import type { Field } from "./Entry";
import { Floating } from "./Floating";
import { MeterPanel } from "./MeterPanel";
import { RoundTimes } from "./RoundTimes";
import { settledMark, withMark } from "./settled";
import { Shelf } from "./Shelf";
import { ShotPanel } from "./ShotPanel";
import { snapped } from "./stepping";
import { SubjectRow } from "./SubjectRow";
import { useArming } from "./useArming";
import { WaitLine } from "./WaitLine";
import { WorkOut } from "./WorkOut";
import "../../parts/looks/looks.css";
import "./bench.css";

type Panel = "light" | "purpose" | "setUp" | "glass" | "extras" | "looks" | "meteredWith" | "ownBag" | "together";

export function BenchScreen() {
  const [laid, move] = useBench();
  if (!laid) return <p className="waiting">{words.bench.waiting}</p>;
  return <LaidBench laid={laid} move={move} />;
}

function LaidBench({ laid: held, move }: { laid: Laid; move: (move: Move) => void }) {
  const [entry, setEntry] = useState<Field | null>(null);
  const [panel, setPanel] = useState<Panel | null>(null);
  const ladders = useLadders(held.step, held.dialLimit);
  const light = useBenchLight(held);
  const steering = steerOf({ ...held, light: light.moving });
  const steered = useSteer(steering);
  const { bagAsked, timerSeconds } = useHabits();
  const settled = settledMark(held, steered.answer);
  const laid = { ...withMark(held, settled?.mark), light: light.moving, timerSeconds };
  const { bench } = laid;
  const { username } = useSession();
  // The demo account's gear is its scenario; everybody else is asked once what is in the own bag.
  const lent = !bagAsked && username !== DEMO && held.items.length > 0 && held.items.every(isLent);
  const exposure = useExposure(exposureOf(laid));
  const kit = useKit();
  const wish = useExposure(wishedSum(laid, steered.answer));
  const onLens = useRig(rigOf(laid, kit.items));
  const own = ownLooks.use();
  const looked = useLooks(looksOf(laid, own));
  const looks = looked.shown;
  const [drawn, setDrawn] = useState(false);
  const act = (next: Move) => {
    move(next);
    const told = bench.lightAt;
    if (told !== null && endsMinute(next)) say({ text: words.light.minuteOver(clockOf(told)) });
  };
  const set = (change: Partial<Bench>) => act({ do: "set", change });
  const answer = exposure.shown;
  const hasFrames = useFinished().length > 0;
  // While something is worked out, the sum stands on what that comes to: no sooner is it an answer.
  const fresh = steering === null || steered.answer ? exposure.answer : undefined;
  const floating = bench.floating === "time" || bench.targetSeconds === null ? null : bench.floating;

  const choose = (seconds: number | null) => set({ targetSeconds: seconds });
  // What is worth knowing is said of what was asked for, not of the filters that lie there meanwhile.
  const sought = floating === "stack" || floating === "reading";
  const noted = sought ? wish.shown : answer;
  const findings = sought ? NO_FINDINGS : onLens;
  const waits = fresh?.turning ? words.bench.armTurn : sought ? words.bench.armWay : null;
  const float = (what: What) => {
    if (what === "time") set({ floating: "time", targetSeconds: null });
    // What is held from now on is the time that stands there.
    else if (bench.targetSeconds !== null || fresh)
      set({ floating: what, targetSeconds: bench.targetSeconds ?? fresh?.set_seconds ?? null });
  };
  const ready = waits === null ? fresh : undefined;
  const arming = useArming({ laid, answered: ready, light, aim: looked.answer?.aim ?? null, move });
  useBenchKeys(laid, act, () => void arming.armIt());
  useKeys("x", () => setPanel("extras"));
  useKeys("w", () => setPanel("looks"));
  useKeys("v", () => setPanel("light"));
  useKeys("p", () => setDrawn(!drawn));
  // While glass or reading floats, the time that counts is the one held; else the one the sum gives.
  const shown = bench.floating === "stack" || bench.floating === "reading" ? bench.targetSeconds : null;
  const renderedSeconds = shown ?? answer?.set_seconds;
  const rendered = useRenderings(
    renderedSeconds === undefined ? null : { ...sceneOf(laid), wants: [], seconds: renderedSeconds },
  );
  useEffect(() => {
    if (answer) markPainted();
  }, [answer]);

  return (
    <div className="bench">
      <h1 className="visually-hidden">{words.bench.title}</h1>
      <div className="bench-parts">
        <div className="bench-first">
          <MeterPanel
            laid={laid}
            ladders={ladders}
            answer={answer}
            light={light}
            example={arming.example}
            set={set}
            onType={setEntry}
            onMeteredWith={() => setPanel("meteredWith")}
            onAgain={() => {
              act({ do: "meterAgain" });
              if (bench.meteredAt !== null) setEntry(bench.meter === "hand" ? "ev" : "shutter");
            }}
            onSameScene={() => act({ do: "sameScene" })}
            onThrough={(id) => move({ do: "toggleThrough", id })}
            onSaid={(id) => move({ do: "saidThrough", id })}
          />
          <Shelf
            laid={laid}
            needed={bench.floating === "stack" ? (steered.answer?.value ?? null) : null}
            onToggle={(id) => move({ do: "toggle", id })}
            onTurn={(id, stops) => set({ turned: { ...bench.turned, [id]: stops } })}
            onAdd={() => setPanel("glass")}
            onTogether={nameable(laid) ? () => setPanel("together") : null}
            onDraw={() => setDrawn(!drawn)}
            drawn={drawn}
            onOwn={lent ? () => setPanel("ownBag") : null}
          />
          <WorkOut what={floating ?? "time"} onChange={float} />
          <section className="bench-staff" aria-label={words.bench.staff}>
            <StaffStage
              laid={laid}
              answer={answer}
              looks={looks}
              light={light}
              ladders={ladders}
              onTakeOff={(id) => move({ do: "toggle", id })}
              onChoose={choose}
              onWant={(want) => set({ scene: wanting(bench.scene, want) })}
            >
              {drawn && renderedSeconds !== undefined && (
                <Drawing laid={laid} seconds={renderedSeconds} onClose={() => setDrawn(false)} />
              )}
            </StaffStage>
          </section>
          <div className="bench-outcome">
            <section className="bench-answer" aria-label={words.bench.answer}>
              <Fault
                error={exposure.error ?? steered.error}
                again={() => {
                  exposure.again();
                  if (steering) steered.again();
                }}
              />
              {floating ? (
                <Floating
                  what={floating}
                  steered={steered.shown}
                  stale={steered.stale}
                  target={bench.targetSeconds ?? 1}
                  dialLimit={laid.dialLimit}
                  settled={settled}
                  residue={fresh?.residue_stops}
                  onTake={(mark) => set(taken(floating, mark))}
                  onTarget={() => setEntry("time")}
                >
                  {floating === "reading" && steered.answer && (
                    <WaitLine laid={laid} light={light} seconds={steered.answer.value} />
                  )}
                </Floating>
              ) : (
                answer && (
                  <Answer
                    answer={answer}
                    laid={laid}
                    stale={!fresh}
                    onForget={() => set({ correction: null, seenLight: null })}
                  >
                    <RoundTimes
                      answer={answer}
                      chosen={bench.targetSeconds}
                      stale={!fresh}
                      onChoose={choose}
                      onAperture={
                        answer.fits_at && hasAperture(held, answer.fits_at.aperture)
                          ? (shotAperture) => set({ shotAperture, targetSeconds: bench.targetSeconds })
                          : null
                      }
                      onType={() => setEntry("time")}
                    />
                  </Answer>
                )
              )}
              {hasFrames && <LastFinding laid={laid} set={set} />}
            </section>
            <div className="bench-words" data-stale={!fresh || undefined}>
              {noted && (
                <AdviceList
                  advice={[...lightAdvice(light), ...noted.advice.filter((remark) => remark.code !== "bulb")]}
                  findings={findings}
                />
              )}
              <SubjectRow scene={bench.scene} onScene={(scene) => set({ scene })} onMore={() => setPanel("looks")} />
              {renderedSeconds !== undefined && (
                <RenderingList
                  renderings={rendered.shown?.subjects ?? []}
                  stale={rendered.stale || looked.stale}
                  looks={looks}
                  seconds={renderedSeconds}
                />
              )}
              {answer && (
                <Alternatives
                  laid={laid}
                  intoAim={bench.targetSeconds === null && looks?.aim != null}
                  target={targetOf(bench.targetSeconds, looks?.aim, answer.seconds)}
                  onTake={(stack, turned, how) => {
                    move({ do: "take", on: stack.glass, aperture: stack.aperture, iso: stack.iso, turned });
                    const { on, shotAperture, shotIso, turned: before, floating: what, targetSeconds } = bench;
                    const change = { on, shotAperture, shotIso, turned: before, floating: what, targetSeconds };
                    say({
                      text: words.alternatives.taken(how),
                      action: { label: words.alternatives.undo, act: () => move({ do: "set", change }) },
                    });
                  }}
                />
              )}
              {answer && <Sum answer={answer} laid={laid} stale={!fresh} />}
            </div>
          </div>
        </div>
        <ShotPanel
          laid={laid}
          ladders={ladders}
          answer={answer}
          fresh={fresh}
          light={light}
          looks={looks}
          set={set}
          onType={setEntry}
          onOpen={setPanel}
        />
      </div>
      <div className="bench-action">
        {waits !== null && <p className="bench-waits">{waits}</p>}
        {arming.asks && (
          <div className="bench-waits" role="alert">
            <span>{words.bench.example.asks}</span>
            <Button
              variant="quiet"
              onClick={() => {
                arming.unask();
                setEntry("shutter");
              }}
            >
              {words.bench.example.mine}
            </Button>
          </div>
        )}
        <Button
          variant="signal"
          className="bench-arm"
          onClick={() => void arming.armIt()}
          disabled={ready === undefined}
        >
          {arming.asks ? words.bench.example.goOn : words.bench.arm}
        </Button>
      </div>
      {entry && (
        <Entry
          key={entry}
          field={entry}
          laid={laid}
          ladders={ladders}
          onClose={() => setEntry(null)}
          onField={setEntry}
          onTake={(change) => {
            set(change);
            setEntry(null);
          }}
        />
      )}
      {panel === "setUp" && <SetUp laid={laid} set={set} onClose={() => setPanel(null)} />}
      {panel === "purpose" && <PurposeDialog laid={laid} set={set} onClose={() => setPanel(null)} />}
      {panel === "light" && <LightDialog laid={laid} light={light} set={set} onClose={() => setPanel(null)} />}
      {panel === "looks" && (
        <LooksDialog laid={laid} onScene={(scene) => set({ scene })} onClose={() => setPanel(null)} />
      )}
      {panel === "ownBag" && <OwnBag laid={laid} onClose={() => setPanel(null)} />}
      {panel === "meteredWith" && (
        <MeteredWith laid={laid} onToggle={(id) => move({ do: "toggleThrough", id })} onClose={() => setPanel(null)} />
      )}
      {panel === "together" && (
        <NameStack
          laid={laid}
          onClose={() => setPanel(null)}
          onNamed={(id, members, name) => {
            move({ do: "together", id, members });
            setPanel(null);
            const apart = { do: "set", change: { on: bench.on, through: bench.through } } as const;
            say({
              text: words.nameStack.done(name),
              action: { label: words.nameStack.undo, act: () => void forgetItem(id).then(() => move(apart)) },
            });
          }}
        />
      )}
      {panel === "extras" && <Extras laid={laid} answer={answer} set={set} onClose={() => setPanel(null)} />}
      {panel === "glass" && (
        <AddGlass
          onClose={() => setPanel(null)}
          onAdded={(id, on) => {
            if (on) move({ do: "toggle", id });
            setPanel(null);
          }}
        />
      )}
    </div>
  );
}

const NO_FINDINGS: never[] = [];

/** Whether what is done is a reading of now. */
function endsMinute(next: Move): boolean {
  return next.do === "meterAgain" || next.do === "sameScene" || (next.do === "set" && isReading(next.change));
}

/** Whether what is on can be one thing: two to four filters of one strength each, none a named stack already. */
function nameable({ stack, bench }: Laid): boolean {
  const metered = stack.filter((glass) => bench.through.some(({ id }) => id === glass.id)).length;
  const whole = metered === 0 || metered === stack.length;
  const fit = (glass: Laid["stack"][number]) => glass.low === glass.high && glass.kind !== "graduated";
  return whole && stack.length > 1 && stack.length <= 4 && stack.every((glass) => fit(glass) && !glass.members.length);
}

/** The scene with a look wished for, or no longer. */
function wanting(scene: Bench["scene"], want: Want): Bench["scene"] {
  return { ...scene, wants: toggledWant(scene.wants, want) };
}

/** What the light says about the reading. */
function lightAdvice(light: BenchLight): Exposure["advice"] {
  const advice = light.plausible?.advice ?? light.fits?.advice;
  return [advice, light.rate?.advice].filter((remark) => remark != null);
}

function taken(what: Exclude<What, "time">, mark: string): Partial<Bench> {
  switch (what) {
    // The time that was held stays the time of the frame.
    case "aperture":
      return { floating: "time", shotAperture: mark };
    case "iso":
      return { floating: "time", shotIso: mark };
    case "reading":
      return {
        floating: "time",
        targetSeconds: null,
        shutter: mark.includes("/") ? mark : `${mark} s`,
        meter: "camera",
      };
    case "stack":
      return {};
  }
}

/** What the alternatives steer for: the time held, else the aim, else the time that stands there. */
function targetOf(held: number | null, aim: Looks["aim"] | undefined, seconds: number): Target {
  if (held !== null) return { seconds: held, within_stops: THIRD };
  if (aim) return { seconds: aim.middle_seconds, within_stops: aim.half_stops };
  return { seconds, within_stops: THIRD };
}

const THIRD = 1 / 3;

interface StageProps {
  laid: Laid;
  answer: Exposure | undefined;
  looks: Looks | undefined;
  light: BenchLight;
  ladders: Ladders | undefined;
  onTakeOff: (id: string) => void;
  onChoose: (seconds: number) => void;
  onWant: (want: Want) => void;
  children: ReactNode;
}

function StaffStage(props: StageProps) {
  const { laid, answer, looks, light, ladders, onTakeOff, onChoose, onWant, children } = props;
  const sky = light.plausible ?? light.fits;
  const [stage, size] = useMeasured<HTMLDivElement>();
  return (
    <div className="staff-stage" ref={stage} data-drop="staff">
      {answer && size && (
        <Staff
          answer={answer}
          stack={laid.stack}
          settings={settingsOf(laid)}
          dialLimit={laid.dialLimit}
          aim={
            laid.bench.targetSeconds !== null && laid.bench.floating !== "time"
              ? { held: laid.bench.targetSeconds }
              : looks?.aim && { from: looks.aim.from_seconds, to: looks.aim.to_seconds }
          }
          bands={bandsOf(laid, looks)}
          sky={sky && { from: sky.from_seconds, to: sky.to_seconds }}
          onTakeOff={onTakeOff}
          onChoose={
            laid.bench.floating === "time"
              ? (seconds) => onChoose(snapped(ladders, seconds, laid.timerSeconds))
              : undefined
          }
          onWant={onWant}
          read={laid.bench.meter === "camera" ? laid.bench.shutter : undefined}
          expected={laid.bench.expectedSd !== null}
          width={size.width}
          height={size.height}
        />
      )}
      {answer && laid.stack.length === 0 && <p className="staff-hint">{words.bench.nothingOn}</p>}
      {children}
    </div>
  );
}

function useBenchKeys(laid: Laid, move: (move: Move) => void, armIt: () => void) {
  const press = (turn: "toggle" | "toggleThrough") => (event: KeyboardEvent) => {
    const id = laid.bag[Number(event.code.slice(-1)) - 1]?.id;
    if (id) move({ do: turn, id });
  };
  const digits = [1, 2, 3, 4, 5, 6, 7, 8, 9];
  useKeys(digits.join(","), press("toggle"), "position");
  useKeys(digits.map((digit) => `shift+${digit}`).join(","), press("toggleThrough"), "position");
  useKeys("0", () => move({ do: "bare" }), "position");
  useKeys("m", () => move({ do: "meterAgain" }));
  useKeys("r", armIt);
}

/** Leaves a mark when a new answer is on screen, which the benchmark reads: a task after a frame runs once it is painted. */
function markPainted() {
  requestAnimationFrame(() => {
    setTimeout(() => performance.mark("jackstaff-answer-painted"));
  });
}
