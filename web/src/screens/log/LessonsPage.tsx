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
          {tally.mistakes.slice(0, 8).map((one) => (
            <li key={one.code} className="lessons-bar">
              <span>{one.label}</span>
              <span className="quiet">{say.frames(one.frames)}</span>
              <svg viewBox="0 0 100 4" preserveAspectRatio="none" aria-hidden="true">
                <rect width={(100 * one.frames) / most} height="4" />
              </svg>
              <span className="lessons-cure">{one.cure}</span>
            </li>
          ))}
        </Part>
        <div>
          <Part title={say.tastes}>{tastes.map((one) => told(one))}</Part>
          <Part title={say.missed}>{tally.missed.map((one) => told(one))}</Part>
          <Part title={say.ends}>
            {clean_ends.map((one) => {
              const item = named(kit.items, "glass", one.glass);
              const others = item?.facts.usable_end.filter(([focal]) => focal !== one.focal_mm) ?? [];
              const end = [one.focal_mm, Math.round(one.stops * 100) / 100];
              return (
                <Limit
                  key={`${one.glass}/${one.focal_mm}`}
                  text={say.end(one.name, one.stops.toFixed(1), String(one.focal_mm))}
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
            {clear_focals.map((one) => {
              const item = named(kit.items, "lens", one.lens);
              const facts = {
                clear_from_mm: one.focal_mm,
                clear_rims_mm: one.rims_mm,
                ...(one.opening_mm !== null && { clear_opening_mm: one.opening_mm }),
              };
              return (
                <Limit
                  key={one.lens}
                  text={say.clearAt(item?.name ?? say.goneLens, String(one.focal_mm), String(one.rims_mm))}
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
  return items.find((one): one is ItemOf<S> => one.sort === sort && one.id === id);
}

function byFocal([one = 0]: number[], [other = 0]: number[]): number {
  return one - other;
}
