import { useCallback, useEffect, useState } from "react";
import { Button, Form, ToggleButton, ToggleButtonGroup } from "react-bootstrap";
import { Link } from "react-router";
import { useKeys } from "../shell/useKeys";
import { words } from "../words";
import { markText, timeParts, timeText } from "../words/times";
import { silence, tick, wake } from "./bell";
import { PlanStaff } from "./PlanStaff";
import { type Armed, open } from "./running";
import { closesAt, rememberClosing, rememberLead, leadIn } from "./habits";

/** Before the shutter: what is set, the lead-in, and the one thing to press. */
export function ArmedView({ plan }: { plan: Armed["plan"] }) {
  const [lead, setLead] = useState(leadIn);
  const [closing, setClosing] = useState(() => closesAt(plan.answer.dial_mark !== null));
  const [opensAt, setOpensAt] = useState<number | null>(null);
  const [mute, setMute] = useState(false);
  const mark = plan.answer.dial_mark;

  const start = async () => {
    if (opensAt !== null) return;
    const from = Date.now();
    rememberClosing(closing);
    const loud = wake();
    if (lead === 0) open(new Date(from));
    else setOpensAt(from + lead * 1000);
    setMute(!(await loud));
  };
  useKeys("space", () => void start(), "position");
  const opened = useCallback((at: number) => open(new Date(at)), []);

  return (
    <div className="run">
      <PlanStaff plan={plan} />
      <section className="run-main" aria-label={words.run.armed}>
        {opensAt !== null ? (
          <LeadIn opensAt={opensAt} onOpen={opened} onCancel={() => setOpensAt(null)} />
        ) : (
          <>
            <h1>{words.run.armed}</h1>
            <p className="run-clock">
              {timeParts(plan.answer.set_seconds).map((part) => (
                <span key={part.unit}>
                  {part.value}
                  <small>{part.value.startsWith("1/") ? "" : part.unit}</small>
                </span>
              ))}
            </p>
            <p className="run-set">
              <strong>{mark ? words.run.onDial(markText(mark)) : words.run.inBulb}</strong>, f/{plan.settings.aperture},
              ISO {plan.settings.iso}, {plan.stack.map((glass) => glass.name).join(" + ") || words.log.bare}
            </p>
            <Form.Group className="choice-line">
              <span id="lead-label">{words.run.lead}</span>
              <ToggleButtonGroup
                type="radio"
                name="lead"
                aria-labelledby="lead-label"
                value={lead}
                onChange={(seconds: number) => {
                  setLead(seconds);
                  rememberLead(seconds);
                }}
              >
                {[0, 2, 5, 10].map((seconds) => (
                  <ToggleButton key={seconds} id={`lead-${seconds}`} value={seconds} variant="segment">
                    {seconds === 0 ? words.run.leadNone : words.run.leadSeconds(seconds)}
                  </ToggleButton>
                ))}
              </ToggleButtonGroup>
            </Form.Group>
            <Form.Group className="choice-line">
              <span id="closing-label">{words.run.closes}</span>
              <ToggleButtonGroup
                type="radio"
                name="closing"
                aria-labelledby="closing-label"
                value={closing}
                onChange={(by: "hand" | "mark") => setClosing(by)}
              >
                <ToggleButton id="closing-hand" value="hand" variant="segment">
                  {words.run.closesHand}
                </ToggleButton>
                <ToggleButton id="closing-mark" value="mark" variant="segment">
                  {words.run.closesMark}
                </ToggleButton>
              </ToggleButtonGroup>
            </Form.Group>
            {mute && (
              <p className="fault" role="alert">
                {words.run.soundRefused}
              </p>
            )}
            <Button variant="signal" className="run-go" onClick={() => void start()}>
              {words.run.open}
            </Button>
            <div className="run-foot">
              <SoundTest onRefused={setMute} />
              <Link to="/" className="plain-link">
                {words.run.toBench}
              </Link>
            </div>
          </>
        )}
      </section>
      <p className="visually-hidden">{words.run.planned(timeText(plan.answer.set_seconds))}</p>
    </div>
  );
}

function SoundTest({ onRefused }: { onRefused: (refused: boolean) => void }) {
  const test = async () => {
    const loud = await wake();
    onRefused(!loud);
    if (!loud) return;
    silence();
    tick();
  };
  return (
    <Button variant="quiet" onClick={() => void test()}>
      {words.run.soundTest}
    </Button>
  );
}

/** Counts down to the opening, a tick a second; the press belongs at zero. */
function LeadIn(props: { opensAt: number; onOpen: (at: number) => void; onCancel: () => void }) {
  const { opensAt, onOpen, onCancel } = props;
  const [left, setLeft] = useState(() => Math.ceil((opensAt - Date.now()) / 1000));
  useEffect(() => {
    let said = Number.NaN;
    const beat = () => {
      const seconds = Math.ceil((opensAt - Date.now()) / 1000);
      if (seconds !== said && seconds > 0) tick();
      said = seconds;
      setLeft(seconds);
      if (seconds <= 0) onOpen(opensAt);
    };
    beat();
    const timer = window.setInterval(beat, 50);
    return () => window.clearInterval(timer);
  }, [opensAt, onOpen]);
  useKeys("escape", onCancel, "position");
  return (
    <>
      <h1>{words.run.opensIn}</h1>
      <p className="run-clock run-lead" role="timer">
        {Math.max(0, left)}
        <small>s</small>
      </p>
      <p>{words.run.leadWhy}</p>
      <Button variant="quiet" className="run-go" onClick={onCancel}>
        {words.run.cancelLead}
      </Button>
    </>
  );
}
