import { type SubmitEvent, useEffect, useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import type { Frame } from "../log/outbox";
import { useKeys } from "../shell/useKeys";
import { words } from "../words";
import { clockText, timeText } from "../words/times";
import { queueBell, silence, wake } from "./bell";
import { closingNow } from "./habits";
import { HoldButton } from "./HoldButton";
import { PlanStaff } from "./PlanStaff";
import { compare, end, openedEarlier } from "./running";

/** The shutter is open: time gone and time to go, from the opening instant alone. */
export function OpenView({ frame }: { frame: Frame }) {
  const now = useBeat(100);
  const opened = Date.parse(frame.opened_at);
  const needed = frame.answer.set_seconds;
  const gone = Math.max(0, (now - opened) / 1000);
  const left = needed - gone;
  const over = left <= 0;
  const endsAt = opened + needed * 1000;
  const closing = closingNow();
  const ending = useRef(false);
  const letRing = useRef(false);

  const finish = (how: "hand" | "mark" | "aborted", at: number) => {
    if (ending.current) return;
    ending.current = true;
    silence();
    void end(frame, how, new Date(at));
  };

  useEffect(() => {
    void wake().then(() => queueBell((endsAt - Date.now()) / 1000));
    return () => {
      if (!letRing.current) silence();
    };
  }, [endsAt]);
  useEffect(() => {
    if (over && "vibrate" in navigator && navigator.userActivation.hasBeenActive)
      navigator.vibrate([400, 150, 400, 150, 800]);
  }, [over]);
  useEffect(() => {
    // The camera closed itself at the mark, whenever this page wakes up to see it.
    if (over && closing === "mark" && !ending.current) {
      ending.current = true;
      letRing.current = true;
      void end(frame, "mark", new Date(endsAt));
    }
  }, [over, closing, frame, endsAt]);
  useKeys("-", () => openedEarlier(frame, 1));

  return (
    <div className="run" data-over={over || undefined}>
      {over && <div className="run-edge" aria-hidden="true" />}
      <PlanStaff plan={frame} elapsed={gone} />
      <section className="run-main" aria-label={words.nav.run}>
        <h1 className="visually-hidden">{words.run.openTitle}</h1>
        <p className="run-clock run-left" role="timer" aria-live="off" data-testid="run-left">
          {over ? "+" : ""}
          {clockText(over ? -left : Math.ceil(left))}
          <small>{over ? words.run.over : words.run.left}</small>
        </p>
        <p className="run-gone">
          <strong>{clockText(gone)}</strong> {words.run.gone}, {words.run.planned(timeText(needed)).toLowerCase()}
        </p>
        {over && <Over planned={frame.answer.seconds} gone={Math.floor(gone)} />}
        <Announcer left={left} needed={needed} />
        <HoldButton
          className="hold-close"
          hint={words.run.holdHint}
          holdKey="space"
          onHeld={() => finish("hand", Date.now())}
        >
          {over ? words.run.closeNow : words.run.close}
        </HoldButton>
        <div className="run-earlier" role="group" aria-label={words.run.earlierLabel}>
          <span>{words.run.earlierLabel}</span>
          <Button variant="quiet" onClick={() => openedEarlier(frame, 1)}>
            {words.run.earlier1}
          </Button>
          <Button variant="quiet" onClick={() => openedEarlier(frame, 5)}>
            {words.run.earlier5}
          </Button>
          <OpenedAgo onSet={(seconds) => openedEarlier(frame, seconds - (Date.now() - opened) / 1000)} />
        </div>
        <HoldButton className="hold-abort" hint={words.run.holdHint} onHeld={() => finish("aborted", Date.now())}>
          {words.run.abort}
        </HoldButton>
      </section>
    </div>
  );
}

/** What the overrun has cost so far, asked of the core once a second. */
function Over({ planned, gone }: { planned: number; gone: number }) {
  const [stops, setStops] = useState<number | null>(null);
  useEffect(() => {
    let current = true;
    void compare(planned, gone).then((late) => {
      if (current && late) setStops(late.stops);
    });
    return () => {
      current = false;
    };
  }, [planned, gone]);
  return <p className="run-over">{stops !== null && stops > 0.005 ? words.run.overBy(stops.toFixed(2)) : "\u00a0"}</p>;
}

function OpenedAgo({ onSet }: { onSet: (seconds: number) => void }) {
  const [text, setText] = useState("");
  const seconds = Number(text);
  const sound = text.trim() !== "" && seconds >= 0 && seconds <= 86_400;
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    if (!sound) return;
    onSet(seconds);
    setText("");
  };
  return (
    <Form className="opened-ago" onSubmit={submit}>
      <Form.Control
        inputMode="numeric"
        autoComplete="off"
        aria-label={words.run.openedAgoField}
        placeholder={words.run.openedAgo}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Button variant="quiet" type="submit" disabled={!sound}>
        {words.run.openedAgoSet}
      </Button>
    </Form>
  );
}

/** Says the few moments that matter to those who listen rather than look. */
function Announcer({ left, needed }: { left: number; needed: number }) {
  const say = words.run.announce;
  const text =
    left <= 0 ? say.mark : left <= 10 && needed > 20 ? say.tenLeft : left <= needed / 2 ? say.half : say.opened;
  return (
    <p className="visually-hidden" aria-live="assertive">
      {text}
    </p>
  );
}

function useBeat(everyMs: number): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = window.setInterval(() => setNow(Date.now()), everyMs);
    const wakeUp = () => setNow(Date.now());
    document.addEventListener("visibilitychange", wakeUp);
    return () => {
      window.clearInterval(timer);
      document.removeEventListener("visibilitychange", wakeUp);
    };
  }, [everyMs]);
  return now;
}
