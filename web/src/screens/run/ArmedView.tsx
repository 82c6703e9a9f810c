import { useState } from "react";
import { Button } from "react-bootstrap";
import { Link } from "wouter";
import { WatchLight } from "../../parts/lightwatch/WatchLight";
import { SceneGlance } from "../../parts/looks/SceneGlance";
import { OnThisPhone } from "../../parts/phonecheck/OnThisPhone";
import { useChecklist } from "../../questions/checklist";
import type { Armed } from "../../state/armed";
import { releaseOf } from "../../state/bag";
import { useBench } from "../../state/bench";
import { onlyTimed, zoneOf } from "../../state/frames";
import { remember, useHabits } from "../../state/habits";
import { useKit } from "../../state/kit";
import { useGoesOn } from "../../state/lightWatch";
import { isLit } from "../../state/runLight";
import { listFor, queued } from "../../state/running";
import { useSession } from "../../state/session";
import { useSunSaid } from "../../state/sunSaid";
import type { Failure } from "../../state/trigger";
import { wake } from "../../ui/bell";
import { Fault } from "../../ui/Fault";
import { MainAction } from "../../ui/kinds/MainAction";
import { ValueChoice } from "../../ui/kinds/ValueChoice";
import { useHeadset } from "../../ui/lockScreen";
import { Moment } from "../../ui/Moment";
import { useKeys } from "../../ui/useKeys";
import { useNow } from "../../ui/useNow";
import { nowMs } from "../../ui/worldClock";
import { words } from "../../words";
import { placeClock } from "../../words/clock";
import { glassNames } from "../../words/glassNames";
import { runWords } from "../../words/run";
import { clockText, markText, plannedParts, plannedTime, signedThirds, timeText } from "../../words/times";
import { watchWords } from "../../words/watch";
import { ITS_OWN } from "../../words/zone";
import { ArmList } from "./ArmList";
import { Busy } from "./Busy";
import { LeadIn } from "./LeadIn";
import { instead } from "./noBulb";
import { PlanStaff } from "./PlanStaff";
import { ReadyMore } from "./ReadyMore";
import { RemoteTest } from "./RemoteTest";
import { QueueLine, SeriesDialog } from "./Series";
import { useArmList } from "./useArmList";
import { useLightSince } from "./useLightSince";
import { usePress } from "./usePress";
import { useTicks } from "./useTicks";

/** Before the shutter: what hands do, what is set, the lead-in, and the one thing to press. */
export function ArmedView({ armed, busyUntil }: { armed: Armed; busyUntil: string | null }) {
  const plan = queued(armed);
  const { lead, closes, device, releaseId } = useHabits();
  const [opensAt, setOpensAt] = useState<number | null>(null);
  const [mute, setMute] = useState(false);
  const [panel, setPanel] = useState<"test" | "series" | null>(null);
  const [more, setMore] = useState(false);
  const ticks = useTicks();
  const now = useNow(5000);
  const watching = useGoesOn();
  const [failure, setFailure] = useState<Failure | null>(null);
  const { practice } = useSession();
  const simulated = device.kind === "simulated" && !practice;
  const checklist = useChecklist(useArmList(armed.list));
  const [laid] = useBench();
  const release = releaseOf(useKit().items, releaseId);
  const gear = {
    body: laid?.body ? { ...laid.body.facts } : null,
    release: release ? { ...release.facts } : null,
  };
  const list = checklist.shown;
  const sunSaid = useSunSaid();
  const lines = list?.lines.filter(({ code }) => !(sunSaid && code === SUN_LINE)) ?? [];
  const warns = lines.some(({ code }) => code === SUN_LINE);
  const mark = plan.answer.dial_mark;
  const meant = plan.answer.steps.filter((step) => step.kind === "correction" || step.kind === "purpose");
  const parts = instead(armed);
  const known = useLightSince(plan);
  const moved = known ? known.stops - reckonedOf(armed) : 0;
  const stopwatch = plan.run.purpose === "stopwatch";
  const isLong = !practice && (stopwatch || plan.answer.set_seconds >= LONG_S);
  // A dial time closes itself; in bulb it is as last time.
  const closing = mark === null ? closes : "mark";
  const say = runWords;

  const press = usePress(warns, isLong, (failed) => {
    setFailure(failed);
    if (failed) setOpensAt(null);
  });
  const start = async () => {
    if (opensAt !== null) return;
    const from = nowMs();
    const loud = wake();
    if (lead === 0) press(from);
    else setOpensAt(from + lead * 1000);
    setMute(!(await loud));
  };
  // A remote sends Space or Enter, a headset its one button.
  useKeys("space,enter", () => void start(), "position");
  useHeadset(() => void start());

  if (opensAt !== null)
    return (
      <Moment name="lead">
        <div className="run run-lead-view">
          <LeadIn opensAt={opensAt} onOpen={press} onCancel={() => setOpensAt(null)} />
        </div>
      </Moment>
    );
  const toDo = lines.filter(({ code }) => !ticks.done.includes(code)).length;
  const harm = lines.filter(({ code, severity }) => severity === "harm" && !ticks.done.includes(code));
  const timed = stopwatch || plan.run.purpose === "timer";
  return (
    <Moment name="armed">
      <div className="run run-ready" data-more={more || undefined}>
        <section className="run-answer" aria-label={say.armed}>
          <h1>{plan.run.purpose === "dark" ? say.darkTitle : say.armed}</h1>
          <p className="answer-time run-clock">
            {stopwatch
              ? clockText(0)
              : plannedParts(plan.answer).map((part) => (
                  <span key={part.unit} className="answer-part">
                    {part.value}
                    <small>{part.value.startsWith("1/") ? "" : part.unit}</small>
                  </span>
                ))}
          </p>
          {timed ? (
            <p className="run-set">{stopwatch ? say.just.upTo : say.inBulb}</p>
          ) : (
            <p className="run-set">
              {mark ? say.onDial(markText(mark)) : say.inBulb}, f/{plan.settings.aperture}, ISO {plan.settings.iso},{" "}
              {glassNames(plan.stack)}
            </p>
          )}
          {meant.map((step) => (
            <p key={step.kind} className="quiet mb-0">
              {step.kind === "purpose" ? say.correct.step(step.name, signedThirds(step.stops)) : step.name}
            </p>
          ))}
          <p className="visually-hidden">{stopwatch ? say.just.upTo : say.planned(plannedTime(plan.answer))}</p>
        </section>
        <PlanStaff plan={plan} />
        {laid && !timed && (
          <SceneGlance laid={laid} seconds={plan.answer.set_seconds} pulled={null} caption={closesText(plan, now)} />
        )}
        {more ? (
          <ReadyMore
            armed={armed}
            known={known}
            batteryLeft={list?.battery_left ?? null}
            rehearsal={list?.rehearsal ?? null}
            onTest={() => setPanel("test")}
            onSeries={() => {
              setMore(false);
              setPanel("series");
            }}
            onRefused={setMute}
            onClose={() => setMore(false)}
          />
        ) : (
          <section className="run-list" aria-label={say.list.title}>
            {failure && (
              <p className="fault" role="alert">
                {failure.text ?? words.trouble.unreachable} {say.list.seeLine}
              </p>
            )}
            <Fault error={checklist.error} again={checklist.again} />
            {armed.queue && <QueueLine queue={armed.queue} busyUntil={busyUntil} zone={zoneOf(armed.plan)} />}
            {plan.run.purpose === "rehearsal" && <p className="run-note">{say.rehearsing}</p>}
            {plan.run.purpose === "dark" && <p className="run-note">{say.darkWhy}</p>}
            {plan.run.purpose === "trial" && armed.after && (
              <p className="run-note">{say.trial.note(plannedTime(armed.after.plan.answer))}</p>
            )}
            {parts !== null && armed.queue === null && (
              <div className="rehearse">
                <p>{say.series.noBulb(parts, timeText(plan.dial_limit))}</p>
                <Button variant="quiet" onClick={() => setPanel("series")}>
                  {say.series.parts(parts)}
                </Button>
              </div>
            )}
            {armed.list === null && onlyTimed(plan) && (
              <Button variant="quiet" onClick={() => listFor(armed, gear)}>
                {say.list.show}
              </Button>
            )}
            {list && <ArmList lines={lines} ticks={ticks} pointed={failure?.line ?? null} />}
            <div className="run-values">
              <ValueChoice
                caption={say.lead}
                value={lead}
                choices={[0, 2, 5, 10].map(
                  (seconds) => [seconds, seconds === 0 ? say.leadNone : say.leadSeconds(seconds)] as const,
                )}
                onValue={(seconds) => remember({ lead: seconds })}
              />
              {!simulated && !stopwatch && mark === null && (
                <ValueChoice
                  caption={say.closes}
                  value={closing === "mark" ? "mark" : "hand"}
                  choices={[
                    ["hand", say.closesHand],
                    ["mark", say.closesMark],
                  ]}
                  onValue={(means) => remember({ closes: means })}
                />
              )}
            </div>
            {isLit(plan.run) && watching && <WatchLight known={known} />}
            {isLit(plan.run) && Math.abs(moved) >= MOVED && (
              <p className="run-note light-watch-why" role="alert">
                {watchWords.movedSince(words.staff.stops(Math.abs(moved).toFixed(1)), moved > 0)}{" "}
                <Link to="/" className="plain-link">
                  {words.toBench}
                </Link>
              </p>
            )}
            <Busy until={busyUntil} />
            {isLong && <OnThisPhone />}
          </section>
        )}
        <div className="run-action action-place">
          {mute && (
            <p className="fault" role="alert">
              {say.soundRefused}
            </p>
          )}
          {more && harm.length > 0 && <p className="harm">{harm[0]?.text}</p>}
          <MainAction onAct={() => void start()} result={toDo > 0 ? say.list.toDo(toDo) : null}>
            {say.open}
          </MainAction>
        </div>
        <footer className="moment-foot">
          <Link to="/" className="plain-link">
            {say.backToBench}
          </Link>
          <Button variant="quiet" aria-expanded={more} onClick={() => setMore(!more)}>
            {say.more.title}
          </Button>
        </footer>
        {panel === "test" && <RemoteTest onClose={() => setPanel(null)} onFailure={setFailure} />}
        {panel === "series" && <SeriesDialog armed={armed} onClose={() => setPanel(null)} />}
      </div>
    </Moment>
  );
}

/** When it closes if it is opened now. */
function closesText({ answer, run }: Armed["plan"], now: number): string {
  if (run.purpose === "stopwatch") return "";
  return runWords.wouldClose(placeClock(now + answer.set_seconds * 1000, ITS_OWN, "seconds"));
}

/** From here on the phone has to last, ring and stay awake [s]. */
const LONG_S = 30;

/** The line on putting dense filters on under the sun. */
const SUN_LINE = "sun_dense";

/** How far the light was reckoned to have moved when this was worked out [stops]. */
function reckonedOf({ plan: { run }, question }: Armed): number {
  return question?.light?.moved_stops ?? ((run.stops_per_minute ?? 0) * run.delay_seconds) / 60;
}

/** Light that has moved further since is worth working the time out again [stops]. */
const MOVED = 1 / 3;
