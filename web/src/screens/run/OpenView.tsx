import { useEffect, useRef, useState } from "react";
import { Button } from "react-bootstrap";
import { WatchLight } from "../../parts/lightwatch/WatchLight";
import type { ExposureEnd } from "../../questions/exposureEnd";
import { cameraSeconds } from "../../state/clock";
import { useEasedPace } from "../../state/dryRun";
import { aimedAt, longerBy, standing } from "../../state/exposureEnd";
import { type Frame, zoneOf } from "../../state/frames";
import { believe, isLit } from "../../state/runLight";
import { correct, end, endByDevice, extend, openedAgo, openedEarlier, reread } from "../../state/running";
import { givenOut } from "../../state/trigger";
import { queueBell, silence, wake } from "../../ui/bell";
import { showNothing, showPlaying } from "../../ui/lockScreen";
import { say as toast } from "../../ui/say";
import { notify } from "../../ui/tell";
import { useKeys } from "../../ui/useKeys";
import { realSecondsTo, usePace } from "../../ui/worldClock";
import { words } from "../../words";
import { placeClock } from "../../words/clock";
import { runWords } from "../../words/run";
import { clockText, signedStops, signedThirds } from "../../words/times";
import { watchWords } from "../../words/watch";
import { AlsoOpen, WhoseItIs } from "./AlsoOpen";
import { Announcer } from "./Announcer";
import { Ends, IfClosed } from "./Ends";
import { HoldButton } from "./HoldButton";
import { MeterButton } from "./MeterButton";
import { useBeat, useEnd, useSpokenClock, useTitle } from "./openSigns";
import { PlanStaff } from "./PlanStaff";
import { TimeForm } from "./TimeForm";
import { useAwake, useWatch, type Watch } from "./useWatch";
import { useWatchedLight } from "./useWatchedLight";

/** The shutter is open: time gone, light gathered, and when it is enough. */
export function OpenView({ frame }: { frame: Frame }) {
  useBeat(100);
  const awake = useAwake();
  const watch = useWatch(frame);
  const closing = useWatchedLight(frame);
  const pace = usePace();
  const faster = frame.run?.speed ?? 1;
  const speed = faster * pace;
  const longer = longerBy(frame);
  const simulated = frame.run?.device === "simulated";
  const elapsed = cameraSeconds(frame);
  const aimed = aimedAt(frame, closing);
  const left = aimed === null ? null : aimed - elapsed;
  const over = left !== null && left <= 0;
  const byItself = simulated || frame.answer.dial_mark !== null || frame.run?.closes === "mark";
  const ending = useRef(false);
  const letRing = useRef(false);
  // A page that was loaded anew may not sound before somebody has pressed something in it.
  const [mute, setMute] = useState(false);
  const [pressed, setPressed] = useState(0);
  const done = standing(closing, elapsed);
  const say = runWords;

  const finish = (how: "hand" | "aborted") => {
    if (ending.current) return;
    ending.current = true;
    silence();
    void end(frame, how, cameraSeconds(frame), aimed);
  };

  /** Found unfinished: it is finished by hand, with the time somebody remembers. */
  const closedThen = (seconds: number) => {
    if (ending.current) return;
    ending.current = true;
    silence();
    void end(frame, "hand", seconds, aimed);
  };

  useEffect(() => {
    if (aimed === null || speed === 0) {
      silence();
      return;
    }
    void wake().then((loud) => {
      setMute(!loud);
      queueBell(realSecondsTo((aimed - cameraSeconds(frame)) / faster));
    });
    return () => {
      if (!letRing.current) silence();
    };
    // The bell follows the aim; the frame's own changes reach it through that.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [aimed, speed, watch.known, pressed]);
  useEffect(() => {
    if (!over) return;
    if ("vibrate" in navigator && navigator.userActivation.hasBeenActive) navigator.vibrate([400, 150, 400, 150, 800]);
    void notify(runWords.announce.mark, runWords.signals.notice);
  }, [over]);
  useEffect(() => {
    // A clock that stands plays nothing.
    if (speed === 0) return;
    const ends =
      aimed === null ? null : new Date(Date.now() + realSecondsTo((aimed - cameraSeconds(frame)) / faster) * 1000);
    const title =
      ends === null ? say.openTitle : say.signals.until(placeClock(ends.getTime(), zoneOf(frame), "seconds"));
    showPlaying({ title, total: aimed, elapsed: cameraSeconds(frame), rate: speed });
    return showNothing;
    // Where the player stands follows from these by itself.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [aimed, speed, watch.known]);
  useEffect(() => {
    // The camera closed itself at the time it was told, whenever this page wakes up to see it.
    if (!watch.known || !over || !byItself || aimed === null || ending.current || watch.source === "wall") return;
    ending.current = true;
    letRing.current = true;
    if (simulated)
      void endByDevice(frame, aimed, aimed).then((failure) => failure && toast({ text: failure.text ?? "" }));
    else void end(frame, "mark", aimed, aimed);
  }, [watch, over, byItself, simulated, frame, aimed]);
  useDeviceGivesOut(frame, simulated, aimed, ending);
  useSpokenClock(left, elapsed, speed);
  useTitle(left === null || over ? null : say.titleOpen(clockText(Math.ceil(left))));
  const ends = useEnd(
    aimed === null || over || speed === 0 ? null : realSecondsTo((aimed - elapsed) / faster),
    zoneOf(frame),
  );
  useKeys("-", () => void openedEarlier(frame, 1));
  useKeys("e", () => void extend(frame, THIRD));
  useKeys("c", () => void extend(frame, -THIRD));

  useEasedPace(aimed === null ? null : Date.parse(frame.opened_at) + (aimed / faster) * 1000);
  const warn = left !== null && left > 0 && left <= 10 * Math.max(1, speed);
  return (
    <div className="run" data-over={over || undefined} data-warn={warn || undefined}>
      {over && <div className="run-edge" aria-hidden="true" />}
      <PlanStaff
        plan={frame}
        elapsed={elapsed < 10 ? Math.round(elapsed * 10) / 10 : Math.floor(elapsed)}
        hoisted={done && aimed !== null ? Math.round(done.gathered * 200) / 200 : null}
      />
      <section className="run-main" aria-label={words.nav.run}>
        <h1 className="visually-hidden">{say.openTitle}</h1>
        <p className="run-clock run-left" role="timer" aria-live="off" data-testid="run-left">
          {left === null ? clockText(elapsed) : `${over ? "+" : ""}${clockText(over ? -left : Math.ceil(left))}`}
          <small>{left === null ? say.gone : over ? say.over : say.left}</small>
        </p>
        <p className="run-gone">
          {left !== null && (
            <>
              <strong>{clockText(elapsed)}</strong> {say.gone}.{" "}
            </>
          )}
          {ends !== null && <span data-testid="run-closes">{say.closesAt(ends)} </span>}
          {done && <span data-testid="run-gathered">{say.gathered(Math.round(done.gathered * 100))}</span>}
          {simulated && <span className="quiet"> {speed > 1 ? say.simulatedAt(speed) : say.simulatedRun}</span>}
        </p>
        {frame.run?.purpose !== "stopwatch" && (
          <p className="run-over" data-testid="run-if-closed">
            {done ? <IfClosed stops={done.stops} /> : UNKNOWN_YET}
          </p>
        )}
        <Announcer left={left ?? 1} needed={aimed ?? 1} />
        <WhoseItIs frame={frame} />
        <AlsoOpen />
        {mute && aimed !== null && (
          <div className="run-note run-mute" role="alert">
            <span>{say.bellMute}</span>
            <Button variant="quiet" onClick={() => setPressed(pressed + 1)}>
              {say.bellAllow}
            </Button>
          </div>
        )}
        {awake === false && <p className="run-note">{say.signals.notAwake}</p>}
        <Ends frame={frame} closing={closing} aimed={aimed} />
        {isLit(frame.run) && (
          <WatchLight
            known={closing?.light ? { ...closing.light, from: "opening" } : null}
            question={closing?.light?.advice && <Disputed frame={frame} light={closing.light} />}
          />
        )}
        <TimeWords watch={watch} frame={frame} elapsed={elapsed} />
        {left !== null && left < -OVERDUE_S && !byItself && (
          <div className="run-earlier" role="group" aria-label={say.closedEarlier}>
            <span>{say.closedEarlier}</span>
            <Button variant="quiet" onClick={() => closedThen(aimed ?? elapsed)}>
              {say.asPlanned}
            </Button>
            <TimeForm
              digits
              set={say.openedAgoSet}
              label={say.closedAfterField}
              hint={say.closedAfter}
              onSet={closedThen}
            />
          </div>
        )}
        {frame.answer.dial_mark === null && frame.run?.purpose !== "stopwatch" && (
          <>
            <div className="run-earlier run-rereads" role="group" aria-label={say.rereadLabel}>
              <span>{say.rereadLabel}</span>
              {REREADS.map((thirds) => (
                <Button key={thirds} variant="quiet" onClick={() => void reread(frame, thirds / 3)}>
                  {signedThirds(thirds / 3)}
                </Button>
              ))}
              {simulated && <MeterButton frame={frame} />}
            </div>
            <div className="run-earlier" role="group" aria-label={say.extendLabel}>
              <span>
                {say.extendLabel}
                {longer !== 0 && `: ${words.staff.stops(signedStops(longer))}`}
              </span>
              <Button variant="quiet" onClick={() => void extend(frame, -THIRD)}>
                {say.cut}
              </Button>
              <Button variant="quiet" onClick={() => void extend(frame, THIRD)}>
                {say.extend}
              </Button>
              {closing && (
                <TimeForm
                  label={say.untilField}
                  hint={say.untilHint}
                  set={say.untilSet}
                  onSet={(seconds) => {
                    const by = standing(closing, seconds)?.stops;
                    if (by !== undefined && seconds > elapsed) void extend(frame, by);
                  }}
                />
              )}
            </div>
          </>
        )}
        {!simulated && (
          <div className="run-earlier" role="group" aria-label={say.earlierLabel}>
            <span>{say.earlierLabel}</span>
            <Button variant="quiet" onClick={() => void openedEarlier(frame, 1)}>
              {say.earlier1}
            </Button>
            <Button variant="quiet" onClick={() => void openedEarlier(frame, 5)}>
              {say.earlier5}
            </Button>
            <TimeForm
              digits
              set={say.openedAgoSet}
              label={say.openedAgoField}
              hint={say.openedAgo}
              onSet={(seconds) => void openedAgo(frame, seconds)}
            />
          </div>
        )}
        <HoldButton className="hold-abort" hint={say.holdHint} onceMore={say.onceMore} onHeld={() => finish("aborted")}>
          {say.abort}
        </HoldButton>
        {/* Where the button stood that opened, so that a second tap meets what must be held. */}
        <div className="run-press">
          <HoldButton
            className="hold-close"
            hint={say.holdHint}
            remote
            onceMore={say.onceMore}
            onHeld={() => finish("hand")}
          >
            {over ? say.closeNow : say.close}
          </HoldButton>
        </div>
      </section>
    </div>
  );
}

const THIRD = 1 / 3;
/** Keeps the line's height until there is something to say. */
const UNKNOWN_YET = "\u00a0";
/** Past the end by more than this, it may well have been closed without a word [s]. */
const OVERDUE_S = 60;
const REREADS = [-3, -2, -1, 0, 1, 2, 3];

/** A reading against the watch: which of them saw the scene. */
function Disputed({ frame, light }: { frame: Frame; light: NonNullable<ExposureEnd["light"]> }) {
  const place = light.contradicts;
  if (place == null) return null;
  return (
    <div className="run-note run-disputed" role="alert">
      <p className="mb-0">{light.advice?.text}</p>
      <Button variant="quiet" onClick={() => void believe(frame.id, place, true)}>
        {watchWords.trustReading}
      </Button>
      <Button variant="quiet" onClick={() => void believe(frame.id, place, false)}>
        {watchWords.trustWatch}
      </Button>
    </div>
  );
}

/** What is not sure about the time, and the question when nobody watched. */
function TimeWords({ watch, frame, elapsed }: { watch: Watch; frame: Frame; elapsed: number }) {
  const say = runWords.truth;
  const unwatched = watch.source === "wall" && frame.run?.watched !== false;
  const speed = frame.run?.speed ?? 1;
  if (unwatched)
    return (
      <div className="run-truth" role="alert">
        <p>{say.nobody(clockText(elapsed))}</p>
        <div className="run-foot">
          <Button variant="quiet" onClick={() => void correct(frame, elapsed / speed, UNWATCHED_S)}>
            {say.right}
          </Button>
          <TimeForm
            digits
            set={runWords.openedAgoSet}
            label={runWords.openedAgoField}
            hint={runWords.openedAgo}
            onSet={(seconds) => void correct(frame, seconds / speed, UNWATCHED_S)}
          />
          <Button variant="quiet" onClick={() => void end(frame, "hand", frame.answer.set_seconds, null)}>
            {say.closedThen}
          </Button>
        </div>
      </div>
    );
  const jumpText = { none: null, slept: say.slept, clock_changed: say.changed, unknown: say.unknown }[watch.jump];
  return (
    <p className="quiet run-sure">
      {jumpText ? `${jumpText} ` : ""}
      {say.sure(String(frame.run?.uncertain_seconds ?? 0.2))}
    </p>
  );
}

/** How well a time is known that nobody watched [s]. */
const UNWATCHED_S = 5;

/** A device that stops by itself is noticed while the frame runs. */
function useDeviceGivesOut(frame: Frame, simulated: boolean, aimed: number | null, ending: { current: boolean }) {
  useEffect(() => {
    if (!simulated || aimed === null) return;
    const timer = window.setInterval(() => {
      const openFor = cameraSeconds(frame);
      if (ending.current || openFor >= aimed) return;
      void givenOut(frame, aimed, openFor).then(
        (out) => {
          if (!out || ending.current) return;
          ending.current = true;
          silence();
          void end(frame, "mark", out.seconds, aimed);
          toast({ text: out.text });
        },
        () => undefined,
      );
    }, 1000);
    return () => window.clearInterval(timer);
  }, [frame, simulated, aimed, ending]);
}
