import type { ReactNode } from "react";
import { Button } from "react-bootstrap";
import { useLearnt } from "../../questions/log";
import { amend } from "../../state/amend";
import { type ItemOf, type KitItem, type Sort, useKit } from "../../state/kit";
import { Fault } from "../../ui/Fault";
import { logWords } from "../../words/log";
import { timeText } from "../../words/times";
import { useOwnLog } from "./useOwnLog";

const say = logWords.lessons;

/** What the log teaches beside the strength of the glass: lost time, mistakes, taste, limits. */
export function LessonsPage() {
  const kit = useKit();
  const learnt = useLearnt(useOwnLog(kit));
  if (!learnt.shown && !learnt.error) return <p className="waiting">{logWords.loading}</p>;
  if (!learnt.shown) return <Fault error={learnt.error} again={learnt.again} />;
  const { tally, tastes, clean_ends, clear_focals } = learnt.shown;
  const most = tally.mistakes[0]?.frames ?? 1;
  return (
    <div className="lessons" data-stale={learnt.stale || undefined}>
      <header className="heading-line">
        <h1>{say.title}</h1>
        <span className="quiet">{say.reviewed(tally.reviewed, tally.frames)}</span>
      </header>
      {tally.frames === 0 && <p className="quiet">{say.none}</p>}
      {tally.frames > 0 && (
        <p className="lessons-time">
          {say.open(timeText(tally.open_seconds))}{" "}
          <strong>
            {tally.repeats > 0 ? say.lost(timeText(Math.max(1, tally.lost_seconds)), tally.repeats) : say.noneLost}
          </strong>
        </p>
      )}
      <div className="lessons-parts">
        <Part title={say.mistakes}>
          {tally.mistakes.slice(0, 8).map((mistake) => (
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
          <Part title={say.tastes}>{tastes.map((taste) => told(taste))}</Part>
          <Part title={say.missed}>{tally.missed.map((mistake) => told(mistake))}</Part>
          <Part title={say.ends}>
            {clean_ends.map((found) => {
              const item = named(kit.items, "glass", found.glass);
              const others = item?.facts.usable_end.filter(([focal]) => focal !== found.focal_mm) ?? [];
              const end = [found.focal_mm, Math.round(found.stops * 100) / 100];
              return (
                <Limit
                  key={`${found.glass}/${found.focal_mm}`}
                  text={say.end(found.name, found.stops.toFixed(1), String(found.focal_mm))}
                  use={
                    item &&
                    !learnt.stale &&
                    (() => amend(item, { usable_end: [...others, end].toSorted(byFocal) }, say.used))
                  }
                />
              );
            })}
          </Part>
          <Part title={say.clear}>
            {clear_focals.map((found) => {
              const item = named(kit.items, "lens", found.lens);
              const facts = {
                clear_from_mm: found.focal_mm,
                clear_rims_mm: found.rims_mm,
                ...(found.opening_mm !== null && { clear_opening_mm: found.opening_mm }),
              };
              return (
                <Limit
                  key={found.lens}
                  text={say.clearAt(item?.name ?? say.goneLens, String(found.focal_mm), String(found.rims_mm))}
                  use={item && !learnt.stale && (() => amend(item, facts, say.used))}
                />
              );
            })}
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

function told({ text, frames }: { text: string; frames: number }) {
  return (
    <li key={text}>
      {text} <span className="quiet">({say.frames(frames)})</span>
    </li>
  );
}

/** A limit that frames have shown, and one tap to write it to the kit; none for what is gone from there. */
function Limit({ text, use }: { text: string; use: (() => Promise<void>) | false | undefined }) {
  return (
    <li className="lessons-use">
      <span>{text}</span>
      <Button variant="quiet" size="sm" disabled={!use} onClick={() => void (use && use())}>
        {say.use}
      </Button>
    </li>
  );
}

function named<S extends Sort>(items: KitItem[], sort: S, id: string): ItemOf<S> | undefined {
  return items.find((item): item is ItemOf<S> => item.sort === sort && item.id === id);
}

function byFocal([a = 0]: number[], [other = 0]: number[]): number {
  return a - other;
}
