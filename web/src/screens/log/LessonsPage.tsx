import type { ReactNode } from "react";
import { useEvidence, useLearnt } from "../../questions/log";
import { useKit } from "../../state/kit";
import { useOwnLog } from "../../state/ownLog";
import { Fault } from "../../ui/Fault";
import { logWords } from "../../words/log";
import { tenthStops, timeText } from "../../words/times";
import { instantText } from "./frameText";

const say = logWords.lessons;

/** What the log teaches beside the strength of the glass: lost time, mistakes, taste, limits. */
export function LessonsPage() {
  const kit = useKit();
  const own = useOwnLog(kit);
  const learnt = useLearnt(own);
  const evidence = useEvidence(own);
  if (!learnt.shown && !learnt.error) return <p className="waiting">{logWords.loading}</p>;
  if (!learnt.shown) return <Fault error={learnt.error} again={learnt.again} />;
  const { statistics, tastes } = learnt.shown;
  const most = statistics.mistakes[0]?.frames ?? 1;
  return (
    <div className="lessons" data-stale={learnt.stale || undefined}>
      <header className="heading-line">
        <h1>{say.title}</h1>
        <span className="quiet">{say.reviewed(statistics.reviewed, statistics.frames)}</span>
      </header>
      {statistics.frames === 0 && <p className="quiet">{say.none}</p>}
      {statistics.frames > 0 && (
        <p className="lessons-time">
          {say.open(timeText(statistics.open_seconds))}{" "}
          <strong>
            {statistics.repeats > 0
              ? say.lost(timeText(Math.max(1, statistics.lost_seconds)), statistics.repeats)
              : say.noneLost}
          </strong>
        </p>
      )}
      <div className="lessons-parts">
        <Part title={say.mistakes}>
          {statistics.mistakes.slice(0, 8).map((mistake) => (
            <li key={mistake.code} className="lessons-bar">
              <span>{mistake.label}</span>
              <span className="quiet">{say.frames(mistake.frames)}</span>
              <svg viewBox="0 0 100 4" preserveAspectRatio="none" aria-hidden="true">
                <rect width={(100 * mistake.frames) / most} height="4" />
              </svg>
              <span className="lessons-cure">{mistake.cure}</span>
            </li>
          ))}
        </Part>
        <div>
          <Part title={say.tastes}>{tastes.map((taste) => line(taste))}</Part>
          <Part title={say.missed}>{statistics.missed.map((mistake) => line(mistake))}</Part>
          <Part title={say.habits}>
            {(evidence.shown?.habits ?? []).map((habit) => (
              <li key={habit.began}>
                {say.habit(instantText(habit.began, habit.zone), tenthStops(habit.mean), (2 * habit.sd).toFixed(1))}
                <span className="quiet"> ({say.frames(habit.frames)})</span>
              </li>
            ))}
          </Part>
        </div>
      </div>
    </div>
  );
}

/** A list under a heading; nothing while there is nothing to list. */
function Part({ title, children }: { title: string; children: ReactNode[] }) {
  if (children.length === 0) return null;
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      <ul className="plain-list">{children}</ul>
    </section>
  );
}

function line({ text, frames }: { text: string; frames: number }) {
  return (
    <li key={text}>
      {text} <span className="quiet">({say.frames(frames)})</span>
    </li>
  );
}
