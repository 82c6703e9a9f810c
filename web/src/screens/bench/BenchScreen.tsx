import { useEffect, useState } from "react";
import { Button } from "react-bootstrap";
import { type Bench, hasAperture, isReading, type Laid, type Move, useBench } from "../../state/bench";
import { useHabits } from "../../state/habits";
import { toggledWant, type Want } from "../../state/scene";
import { DEMO, useSession } from "../../state/session";
import { isLent } from "../../state/starter";
import { MainAction } from "../../ui/kinds/MainAction";
import { say } from "../../ui/say";
import { useKeys } from "../../ui/useKeys";
import { words } from "../../words";
import { clockOf } from "../../words/clock";
import { AdviceList } from "./AdviceList";
import { BenchDialogs, type Panel } from "./BenchDialogs";
import { Drawing } from "./dialogs";
import type { Field } from "./Entry";
import { HarmLines, NotesLine } from "./HarmLines";
import { LightRow } from "./LightRow";
import { MeterAsks } from "./MeterAsks";
import { MeterValues } from "./MeterValues";
import { MorePanel } from "./MorePanel";
import { isNameable } from "./nameable";
import { Outcome } from "./Outcome";
import { RoundTimes } from "./RoundTimes";
import { SceneGlance } from "../../parts/looks/SceneGlance";
import { Shelf } from "./Shelf";
import { type ShotField, ShotValues } from "./ShotValues";
import { StaffStage } from "./StaffStage";
import { SubjectRow } from "./SubjectRow";
import { useArming } from "./useArming";
import { useBenchKeys } from "./useBenchKeys";
import { lightAdvice, useBenchView } from "./useBenchView";
import { usePhoneMatch } from "./usePhoneMatch";
import { Ways } from "./Ways";
import "../../parts/looks/looks.css";
import "./bench.css";
import "./narrow.css";

export function BenchScreen() {
  const [laid, move] = useBench();
  if (!laid) return <p className="waiting">{words.bench.waiting}</p>;
  return (
    <div className="bench-frame">
      <LaidBench held={laid} move={move} />
    </div>
  );
}

function LaidBench({ held, move }: { held: Laid; move: (move: Move) => void }) {
  const [entry, setEntry] = useState<Field | null>(null);
  const [panel, setPanel] = useState<Panel | null>(null);
  const [more, setMore] = useState<ShotField | "all" | null>(null);
  const [drawn, setDrawn] = useState(false);
  const [pulled, setPulled] = useState<number | null>(null);
  const view = useBenchView(held);
  const { laid, ladders, light, answer, fresh, floating, looks, seconds, waits } = view;
  const { bench } = laid;
  const { bagAsked } = useHabits();
  const { username } = useSession();
  // The demo account's gear is its scenario; everybody else is asked once what is in the own bag.
  const lent = !bagAsked && username !== DEMO && held.items.length > 0 && held.items.every(isLent);
  const act = (next: Move) => {
    move(next);
    const told = bench.lightAt;
    if (told !== null && endsMinute(next)) say({ text: words.light.minuteOver(clockOf(told)) });
  };
  const set = (change: Partial<Bench>) => act({ do: "set", change });
  const choose = (time: number | null) => set({ targetSeconds: time });
  const ready = waits === null ? fresh : undefined;
  const arming = useArming({ laid, answered: ready, light, aim: view.aim, move });
  const phone = usePhoneMatch(laid, light);
  useBenchKeys(laid, act, () => void arming.armIt());
  useKeys("x", () => setPanel("extras"));
  useKeys("w", () => setPanel("looks"));
  useKeys("v", () => setPanel("light"));
  useKeys("p", () => setDrawn(!drawn));
  useKeys("f", () => setMore("aperture"));
  useKeys("o", () => setMore("iso"));
  useKeys("t", () => setMore("time"));
  useEffect(() => {
    if (answer) markPainted();
  }, [answer]);
  const advice = view.noted && [...lightAdvice(light), ...view.noted.filter(({ code }) => code !== "bulb")];
  const ways = <Ways view={view} move={move} />;
  const caption = view.renderings?.shown.map(({ text }) => text).join(", ") ?? "";

  return (
    <div
      className="bench"
      data-more={more !== null || undefined}
      data-ways={floating === "stack" || undefined}
      data-working={!fresh || undefined}
    >
      <h1 className="visually-hidden">{words.bench.title}</h1>
      <div className="bench-set">
        <MeterValues
          laid={laid}
          ladders={ladders}
          light={light}
          example={arming.example}
          moved={answer?.advice.some(({ code }) => code === "meter_again") ?? false}
          set={set}
          onType={setEntry}
          onMeteredWith={() => setPanel("meteredWith")}
          onAgain={() => {
            act({ do: "meterAgain" });
            if (bench.meteredAt !== null) setEntry(bench.meter === "hand" ? "ev" : "shutter");
          }}
          onSameScene={() => act({ do: "sameScene" })}
        />
        <LightRow light={light} bench={bench} set={set} />
        <MeterAsks
          laid={laid}
          light={light}
          phone={phone}
          set={set}
          onThrough={(id) => move({ do: "toggleThrough", id })}
          onSaid={(id) => move({ do: "saidThrough", id })}
        />
        <Button
          variant="quiet"
          className="more-open"
          aria-expanded={more !== null}
          onClick={() => setMore(more === null ? "all" : null)}
        >
          {words.more.open}
        </Button>
      </div>
      <Shelf
        laid={laid}
        needed={bench.floating === "stack" ? (view.steered.answer?.value ?? null) : null}
        onToggle={(id) => move({ do: "toggle", id })}
        onTurn={(id, stops) => set({ turned: { ...bench.turned, [id]: stops } })}
        onAdd={() => setPanel("glass")}
        onOwn={lent ? () => setPanel("ownBag") : null}
      />
      <section className="bench-staff" aria-label={words.bench.staff}>
        <StaffStage
          laid={laid}
          answer={answer}
          looks={looks}
          light={light}
          ladders={ladders}
          onTakeOff={(id) => move({ do: "toggle", id })}
          onChoose={choose}
          onPull={setPulled}
          onWant={(want) => set({ scene: wanting(bench.scene, want) })}
        >
          {bench.scene.subjects.length === 0 && (
            <Button variant="quiet" className="staff-asks" onClick={() => setMore("all")}>
              {words.looks.ask}
            </Button>
          )}
        </StaffStage>
      </section>
      <Outcome view={view} set={set} onType={setEntry}>
        {advice && <NotesLine advice={advice} findings={view.findings} onMore={() => setMore("all")} />}
      </Outcome>
      {floating === "stack" && more === null && <div className="bench-ways">{ways}</div>}
      <SceneGlance laid={laid} seconds={seconds} pulled={pulled} caption={caption} onOpen={() => setDrawn(true)} />
      {drawn && seconds !== undefined && <Drawing laid={laid} seconds={seconds} onClose={() => setDrawn(false)} />}
      {more !== null && (
        <MorePanel
          laid={laid}
          answer={answer}
          stale={!fresh}
          light={light}
          looks={looks}
          renderings={view.renderings}
          phone={phone}
          nameable={isNameable(laid)}
          onOpen={setPanel}
          onClose={() => setMore(null)}
          advice={advice && <AdviceList advice={advice} findings={view.findings} />}
          shot={
            <ShotValues
              laid={laid}
              ladders={ladders}
              answer={answer}
              fresh={fresh}
              set={set}
              onType={setEntry}
              first={more === "all" ? null : more}
            />
          }
          speeds={
            floating === null &&
            answer &&
            !answer.turning && (
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
            )
          }
          subjects={
            <SubjectRow scene={bench.scene} onScene={(scene) => set({ scene })} onMore={() => setPanel("looks")} />
          }
          ways={ways}
        />
      )}
      <div className="bench-action action-place">
        {waits !== null && <p className="bench-waits">{waits}</p>}
        {advice && <HarmLines advice={advice} findings={view.findings} />}
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
        <MainAction onAct={() => void arming.armIt()} disabled={ready === undefined}>
          {arming.asks ? words.bench.example.goOn : words.bench.arm}
        </MainAction>
      </div>
      <BenchDialogs
        view={view}
        panel={panel}
        entry={entry}
        set={set}
        move={move}
        onEntry={setEntry}
        onClose={() => setPanel(null)}
      />
    </div>
  );
}

/** Whether what is done is a reading of now. */
function endsMinute(next: Move): boolean {
  return next.do === "meterAgain" || next.do === "sameScene" || (next.do === "set" && isReading(next.change));
}

/** The scene with a look wished for, or no longer. */
function wanting(scene: Bench["scene"], want: Want): Bench["scene"] {
  return { ...scene, wants: toggledWant(scene.wants, want) };
}

/** Leaves a mark when a new answer is on screen, which the benchmark reads: a task after a frame runs once it is painted. */
function markPainted() {
  requestAnimationFrame(() => {
    setTimeout(() => performance.mark("jackstaff-answer-painted"));
  });
}
