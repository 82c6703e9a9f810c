import { useEffect, useRef, useState } from "react";
import { tick } from "../../ui/bell";
import { MainAction } from "../../ui/kinds/MainAction";
import { say as toast } from "../../ui/say";
import { useKeys } from "../../ui/useKeys";
import { nowMs } from "../../ui/worldClock";
import { runWords } from "../../words/run";

/** Counts down to the opening, a tick a second; the press belongs at zero. */
export function LeadIn(props: { opensAt: number; onOpen: (at: number) => void; onCancel: () => void }) {
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
    <section className="run-lead-in" aria-label={runWords.armed}>
      <h1>{runWords.opensIn}</h1>
      <p className="run-clock run-lead" role="timer">
        {Math.max(0, left)}
        <small>s</small>
      </p>
      <p>{runWords.leadWhy}</p>
      <div className="run-action action-place">
        <MainAction onAct={onCancel}>{runWords.cancelLead}</MainAction>
      </div>
    </section>
  );
}
