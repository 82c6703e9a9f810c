import { useCallback, useEffect, useRef, useState } from "react";
import { Button } from "react-bootstrap";
import { Link, useLocation } from "wouter";
import { WatchLight } from "../../parts/lightwatch/WatchLight";
import { OnThisPhone } from "../../parts/phonecheck/OnThisPhone";
import { useExposure } from "../../questions/bench";
import { useChecklist } from "../../questions/checklist";
import type { Armed } from "../../state/armed";
import { releaseOf } from "../../state/bag";
import { unmetered, useBench } from "../../state/bench";
import { onlyTimed, zoneOf } from "../../state/frames";
import { remember, useHabits } from "../../state/habits";
import { useKit } from "../../state/kit";
import { isLit } from "../../state/runLight";
import { disarm, listFor, open, queued, rearm, rehearsalOf, rehearse, tryFirst } from "../../state/running";
import { useSession } from "../../state/session";
import { goOnKnowing } from "../../state/phoneCheck";
import { saySun, useSunSaid } from "../../state/sunSaid";
import type { Failure } from "../../state/trigger";
import { tick, wake } from "../../ui/bell";
import { Fault } from "../../ui/Fault";
import { faultText } from "../../ui/faultText";
import { Choice } from "../../ui/fields";
import { useHeadset } from "../../ui/lockScreen";
import { Moment } from "../../ui/Moment";
import { say as toast } from "../../ui/say";
import { useKeys } from "../../ui/useKeys";
import { useNow } from "../../ui/useNow";
import { nowMs } from "../../ui/worldClock";
import { words } from "../../words";
import { glassNames } from "../../words/glassNames";
import { runWords } from "../../words/run";
import { clockText, markText, plannedParts, plannedTime, signedThirds, timeText } from "../../words/times";
import { watchWords } from "../../words/watch";
import { ArmList } from "./ArmList";
import { Closer } from "./Closer";
import { GearNow } from "./GearNow";
import { instead } from "./noBulb";
import { PlanStaff } from "./PlanStaff";
import { RemoteTest } from "./RemoteTest";
import { QueueLine, SeriesDialog } from "./Series";
import { Signals } from "./Signals";
import { useArmList } from "./useArmList";
import { useLightSince } from "./useLightSince";

/** Before the shutter: what hands do, what is set, the lead-in, and the one thing to press. */
export function ArmedView({ armed, busyUntil }: { armed: Armed; busyUntil: string | null }) {
  const plan = queued(armed);
  const { lead, closes, device, releaseId } = useHabits();
  const [opensAt, setOpensAt] = useState<number | null>(null);
  const [mute, setMute] = useState(false);
  const [panel, setPanel] = useState<"test" | "series" | null>(null);
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

  const press = useCallback(
    (at: number) => {
      void open(new Date(at)).then((failed) => {
        setFailure(failed);
        if (failed) setOpensAt(null);
        else {
          if (warns) saySun();
          if (isLong) goOnKnowing();
        }
      });
    },
    [setFailure, warns, isLong],
  );
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
        <div className="run">
          <PlanStaff plan={plan} />
          <section className="run-main" aria-label={say.armed}>
            <LeadIn opensAt={opensAt} onOpen={press} onCancel={() => setOpensAt(null)} />
          </section>
        </div>
      </Moment>
    );
  return (
    <Moment name="armed">
      <div className="run run-arming">
        <section className="run-list" aria-label={say.list.title}>
          <h1>{plan.run.purpose === "dark" ? say.darkTitle : say.armed}</h1>
          {failure && (
            <p className="fault" role="alert">
              {failure.text ?? words.trouble.unreachable} {say.list.seeLine}
            </p>
          )}
          <Fault error={checklist.error} again={checklist.again} />
          {armed.list === null && onlyTimed(plan) && (
            <Button variant="quiet" onClick={() => listFor(armed, gear)}>
              {say.list.show}
            </Button>
          )}
          {list && <ArmList lines={lines} pointed={failure?.line ?? null} />}
          <GearNow armed={armed} left={list?.battery_left ?? null} />
          {!practice && <Closer onTest={() => setPanel("test")} />}
        </section>
        <section className="run-main" aria-label={say.armed}>
          <p className="run-clock">
            {stopwatch
              ? clockText(0)
              : plannedParts(plan.answer).map((part) => (
                  <span key={part.unit}>
                    {part.value}
                    <small>{part.value.startsWith("1/") ? "" : part.unit}</small>
                  </span>
                ))}
          </p>
          {stopwatch || plan.run.purpose === "timer" ? (
            <p className="run-set">
              <strong>{stopwatch ? say.just.upTo : say.inBulb}</strong>
            </p>
          ) : (
            <p className="run-set">
              <strong>{mark ? say.onDial(markText(mark)) : say.inBulb}</strong>, f/{plan.settings.aperture}, ISO{" "}
              {plan.settings.iso}, {glassNames(plan.stack)}
            </p>
          )}
          {meant.map((step) => (
            <p key={step.kind} className="run-note">
              {step.kind === "purpose" ? say.correct.step(step.name, signedThirds(step.stops)) : step.name}
            </p>
          ))}
          {armed.queue && <QueueLine queue={armed.queue} busyUntil={busyUntil} zone={zoneOf(armed.plan)} />}
          {plan.run.purpose === "rehearsal" && <p className="run-note">{say.rehearsing}</p>}
          {plan.run.purpose === "dark" && <p className="run-note">{say.darkWhy}</p>}
          {plan.run.purpose === "trial" && armed.after && (
            <p className="run-note">{say.trial.note(plannedTime(armed.after.plan.answer))}</p>
          )}
          {list?.rehearsal && plan.run.purpose === "frame" && (
            <RehearsalOffer armed={armed} iso={list.rehearsal.iso} why={list.rehearsal.why} />
          )}
          {parts !== null && armed.queue === null && (
            <div className="rehearse">
              <p>{say.series.noBulb(parts, timeText(plan.dial_limit))}</p>
              <Button variant="quiet" onClick={() => setPanel("series")}>
                {say.series.parts(parts)}
              </Button>
            </div>
          )}
          {triesFirst(armed) && (
            <div className="rehearse">
              <p>{say.trial.offer(timeText(plan.dial_limit))}</p>
              <Button
                variant="quiet"
                onClick={() => {
                  tryFirst(plan.dial_limit).catch((error: unknown) => toast({ text: faultText(error) }));
                }}
              >
                {say.trial.arm(timeText(plan.dial_limit))}
              </Button>
            </div>
          )}
          <Choice
            name="lead"
            label={say.lead}
            value={lead}
            choices={[0, 2, 5, 10].map((seconds) => [seconds, seconds === 0 ? say.leadNone : say.leadSeconds(seconds)])}
            onValue={(seconds) => remember({ lead: seconds })}
          />
          {!simulated && !stopwatch && mark === null && (
            <Choice
              name="closing"
              label={say.closes}
              value={closing}
              choices={[
                ["hand", say.closesHand],
                ["mark", say.closesMark],
              ]}
              onValue={(means) => remember({ closes: means })}
            />
          )}
          {mute && (
            <p className="fault" role="alert">
              {say.soundRefused}
            </p>
          )}
          {isLit(plan.run) && (
            <WatchLight
              known={known}
              question={
                Math.abs(moved) >= MOVED && (
                  <p className="run-note light-watch-why" role="alert">
                    {watchWords.movedSince(words.staff.stops(Math.abs(moved).toFixed(1)), moved > 0)}{" "}
                    <Link to="/" className="plain-link">
                      {words.toBench}
                    </Link>
                  </p>
                )
              }
            />
          )}
          <Busy until={busyUntil} />
          <Signals onRefused={setMute} />
          {isLong && <OnThisPhone />}
          <div className="run-foot">
            <Button variant="quiet" onClick={() => setPanel("series")}>
              {say.series.open}
            </Button>
            <Reframe />
            {armed.after && (
              <Button variant="quiet" onClick={rearm}>
                {say.backToFrame}
              </Button>
            )}
            <Link to="/" className="plain-link">
              {words.toBench}
            </Link>
          </div>
          <div className="run-press">
            <Button variant="signal" className="run-go" onClick={() => void start()}>
              {say.open}
            </Button>
          </div>
          {panel === "test" && <RemoteTest onClose={() => setPanel(null)} onFailure={setFailure} />}
          {panel === "series" && <SeriesDialog armed={armed} onClose={() => setPanel(null)} />}
        </section>
        <p className="visually-hidden">{stopwatch ? say.just.upTo : say.planned(plannedTime(plan.answer))}</p>
      </div>
    </Moment>
  );
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

/** The same frame at a high ISO first. The time that is shown is the one that is armed. */
function RehearsalOffer({ armed, iso, why }: { armed: Armed; iso: string; why: string }) {
  const say = runWords;
  const rehearsal = useExposure(rehearsalOf(armed, iso));
  const { shown, answer, error, again } = rehearsal;
  return (
    <div className="rehearse">
      <Fault error={error} again={again} />
      {shown && (
        <p data-stale={rehearsal.stale || undefined}>
          <strong>{say.rehearsal(iso, plannedTime(shown))}</strong> {why}
        </p>
      )}
      <Button variant="quiet" disabled={answer === undefined} onClick={() => answer && rehearse(iso, answer)}>
        {say.rehearse}
      </Button>
    </div>
  );
}

/** A trial at the dial's end is worth it where the frame is much longer; film's law would not scale up. */
function triesFirst({ plan, question, queue }: Armed): boolean {
  const { purpose, film } = plan.run;
  return (
    purpose === "frame" &&
    question !== null &&
    queue === null &&
    film == null &&
    plan.answer.dial_mark === null &&
    plan.answer.set_seconds >= plan.dial_limit * 2
  );
}

/** Another picture with the same gear: the camera is blind, so reading and focus begin again. */
function Reframe() {
  const [, navigate] = useLocation();
  return (
    <Button
      variant="quiet"
      onClick={() => {
        unmetered();
        disarm();
        navigate("/");
        toast({ text: runWords.reframed });
      }}
    >
      {runWords.reframe}
    </Button>
  );
}

/** The camera still reduces noise from the last frame. */
function Busy({ until }: { until: string | null }) {
  const now = useNow(1000);
  const left = until === null ? 0 : (Date.parse(until) - now) / 1000;
  if (left <= 0) return null;
  return <p className="run-note">{runWords.busy(clockText(Math.ceil(left)))}</p>;
}

/** Counts down to the opening, a tick a second; the press belongs at zero. */
function LeadIn(props: { opensAt: number; onOpen: (at: number) => void; onCancel: () => void }) {
  const { opensAt, onOpen } = props;
  const isOver = useRef(false);
  const onCancel = () => {
    isOver.current = true;
    props.onCancel();
  };
  // Somebody signed out or began a dry run on another page, or this screen was left.
  useEffect(
    () => () => {
      if (!isOver.current) toast({ text: runWords.leadInStopped });
    },
    [],
  );
  const [left, setLeft] = useState(() => Math.ceil((opensAt - nowMs()) / 1000));
  useEffect(() => {
    let spoken = Number.NaN;
    let pressed = false;
    const beat = () => {
      const seconds = Math.ceil((opensAt - nowMs()) / 1000);
      if (seconds !== spoken && seconds > 0) tick();
      spoken = seconds;
      setLeft(seconds);
      if (seconds <= 0 && !pressed) {
        pressed = true;
        isOver.current = true;
        onOpen(opensAt);
      }
    };
    beat();
    const timer = window.setInterval(beat, 50);
    return () => window.clearInterval(timer);
  }, [opensAt, onOpen]);
  useKeys("escape", onCancel, "position");
  return (
    <>
      <h1>{runWords.opensIn}</h1>
      <p className="run-clock run-lead" role="timer">
        {Math.max(0, left)}
        <small>s</small>
      </p>
      <p>{runWords.leadWhy}</p>
      <Button variant="quiet" className="run-go" onClick={onCancel}>
        {runWords.cancelLead}
      </Button>
    </>
  );
}
