import { useEffect, useRef, useState } from "react";
import { Button } from "react-bootstrap";
import { WatchLight } from "../../parts/lightwatch/WatchLight";
import { SceneGlance } from "../../parts/looks/SceneGlance";
import { cameraSeconds } from "../../state/clock";
import { useEasedPace } from "../../state/dryRun";
import { aimedAt, longerBy, standing } from "../../state/exposureEnd";
import { useBench } from "../../state/bench";
import { type Frame, onlyTimed, zoneOf } from "../../state/frames";
import { useGoesOn } from "../../state/lightWatch";
import { isLit } from "../../state/runLight";
import { end, endByDevice, extend, openedEarlier } from "../../state/running";
import { queueBell, silence, wake } from "../../ui/bell";
import { showNothing, showPlaying } from "../../ui/lockScreen";
import { say as toast } from "../../ui/say";
import { notify } from "../../ui/tell";
import { useKeys } from "../../ui/useKeys";
import { realSecondsTo, usePace } from "../../ui/worldClock";
import { words } from "../../words";
import { placeClock } from "../../words/clock";
import { runWords } from "../../words/run";
import { clockText, signedStops } from "../../words/times";
import { AlsoOpen, WhoseItIs } from "./AlsoOpen";
import { Announcer } from "./Announcer";
import { Disputed } from "./Disputed";
import { Ends, IfClosed } from "./Ends";
import { HoldButton } from "./HoldButton";
import { LightNow, OpenedBefore } from "./OpenMore";
import { OpenStaff } from "./OpenStaff";
import { useBeat, useEnd, useSpokenClock, useTitle } from "./openSigns";
import { TimeForm } from "./TimeForm";
import { TimeWords } from "./TimeWords";
import { useDeviceGivesOut } from "./useDeviceGivesOut";
import { useAwake, useWatch } from "./useWatch";
import { useWatchedLight } from "./useWatchedLight";

/** The shutter is open: time gone, light gathered, and when it is enough. */
export function OpenView({ frame }: { frame: Frame }) {
  useBeat(100);
  const awake = useAwake();
  const watch = useWatch(frame);
  const closing = useWatchedLight(frame);
  const [laid] = useBench();
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
  const [panel, setPanel] = useState<"light" | "before" | null>(null);
  const watching = useGoesOn();
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
    <div className="run run-open" data-over={over || undefined} data-warn={warn || undefined}>
      {over && <div className="run-edge" aria-hidden="true" />}
      <section className="run-time" aria-label={words.nav.run}>
        <h1 className="visually-hidden">{say.openTitle}</h1>
        <p className="run-clock run-left" role="timer" aria-live="off" data-testid="run-left">
          {left === null ? clockText(elapsed) : `${over ? "+" : ""}${clockText(over ? -left : Math.ceil(left))}`}
        </p>
        <p className="run-gone">
          <strong>{left === null ? say.gone : over ? say.over : say.left}</strong>
          {ends !== null && (
            <>
              , <span data-testid="run-closes">{say.closesAt(ends)}</span>
            </>
          )}
          {simulated && <span className="quiet">. {speed > 1 ? say.simulatedAt(speed) : say.simulatedRun}</span>}
        </p>
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
        {awake === false && <p className="quiet mb-0">{say.signals.notAwake}</p>}
        <Ends frame={frame} closing={closing} aimed={aimed} />
        <TimeWords watch={watch} frame={frame} elapsed={elapsed} />
        {isLit(frame.run) && closing?.light?.advice && <Disputed frame={frame} light={closing.light} />}
        {isLit(frame.run) && watching && (
          <WatchLight known={closing?.light ? { ...closing.light, from: "opening" } : null} />
        )}
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
      </section>
      <OpenStaff
        enough={closing?.as_metered_seconds ?? frame.answer.seconds}
        elapsed={elapsed < 10 ? Math.round(elapsed * 10) / 10 : Math.floor(elapsed)}
        gathered={done ? Math.round(done.gathered * 200) / 200 : null}
        closes={aimed === null ? null : Math.round(aimed)}
      />
      {laid && aimed !== null && !onlyTimed(frame) && (
        <SceneGlance
          laid={laid}
          seconds={Math.round(aimed)}
          pulled={elapsed}
          stops={Math.max(DARKEST, Math.min(0, done?.stops ?? 0))}
          caption={say.soFar}
        />
      )}
      {panel === "light" ? (
        <LightNow
          frame={frame}
          closing={closing}
          simulated={simulated}
          elapsed={elapsed}
          onClose={() => setPanel(null)}
        />
      ) : panel === "before" ? (
        <OpenedBefore frame={frame} onClose={() => setPanel(null)} />
      ) : (
        <div className="run-acts">
          {frame.answer.dial_mark === null && frame.run?.purpose !== "stopwatch" && (
            <div className="run-longer" role="group" aria-label={say.extendLabel}>
              <Button variant="quiet" onClick={() => void extend(frame, -THIRD)}>
                {say.cut}
              </Button>
              <Button variant="quiet" onClick={() => void extend(frame, THIRD)}>
                {say.extend}
              </Button>
              <Button variant="quiet" onClick={() => setPanel("light")}>
                {say.lightNow}
              </Button>
              {longer !== 0 && <span className="quiet">{words.staff.stops(signedStops(longer))}</span>}
            </div>
          )}
          {frame.run?.purpose !== "stopwatch" && (
            <p className="run-over" data-testid="run-if-closed">
              {done ? <IfClosed stops={done.stops} /> : UNKNOWN_YET}
            </p>
          )}
        </div>
      )}
      {/* Where the button stood that opened, so that a second tap meets what must be held. */}
      <div className="run-action action-place">
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
      <footer className="moment-foot">
        {simulated ? (
          <span />
        ) : (
          <Button variant="quiet" onClick={() => setPanel(panel === "before" ? null : "before")}>
            {say.earlierLabel}
          </Button>
        )}
        <HoldButton className="hold-quiet" hint={say.holdHint} onceMore={say.onceMore} onHeld={() => finish("aborted")}>
          {say.abort}
        </HoldButton>
      </footer>
    </div>
  );
}

const THIRD = 1 / 3;
/** A picture so much darker shows nothing at all [stops]. */
const DARKEST = -4;
/** Keeps the line's height until there is something to say. */
const UNKNOWN_YET = "\u00a0";
/** Past the end by more than this, it may well have been closed without a word [s]. */
const OVERDUE_S = 60;
