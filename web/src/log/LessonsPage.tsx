import { Button } from "react-bootstrap";
import { draftOf, type KitItem, useKit } from "../kit/useKit";
import { say as toast } from "../shell/say";
import { Fault } from "../shell/Fault";
import { words } from "../words";
import { timeText } from "../words/times";
import { useLogAnswer } from "./useLogAnswer";

const say = words.log.lessons;

/** What the log teaches beside the strength of the glass: lost time, mistakes, taste, limits. */
export function LessonsPage() {
  const kit = useKit();
  const learnt = useLogAnswer("learnt", kit);
  if (learnt.isPending) return <p className="waiting">{words.log.loading}</p>;
  if (!learnt.data) return <Fault error={learnt.error} />;
  const { tally, tastes, clean_ends, clear_focals } = learnt.data;
  const use = async (item: KitItem | undefined, facts: Record<string, unknown>) => {
    if (!item) return;
    const before = draftOf(item);
    await kit.keep([{ ...before, facts: { ...before.facts, ...facts } }]);
    toast({ text: say.used, action: { label: words.log.undo, act: () => void kit.keep([before]) } });
  };
  const named = (id: string) => kit.items.find((one) => one.id === id);
  return (
    <div className="lessons">
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
        {tally.mistakes.length > 0 && (
          <section aria-label={say.mistakes}>
            <h2>{say.mistakes}</h2>
            <ol className="lessons-bars">
              {tally.mistakes.slice(0, 8).map((one) => (
                <li key={one.code}>
                  <span>{one.label}</span>
                  <span className="quiet">{say.frames(one.frames)}</span>
                  <svg viewBox="0 0 100 4" preserveAspectRatio="none" aria-hidden="true">
                    <rect width={(100 * one.frames) / (tally.mistakes[0]?.frames ?? 1)} height="4" />
                  </svg>
                  <span className="lessons-cure">{one.cure}</span>
                </li>
              ))}
            </ol>
          </section>
        )}
        <div>
          {tastes.length > 0 && (
            <section aria-label={say.tastes}>
              <h2>{say.tastes}</h2>
              <ul className="plain-list">
                {tastes.map((one) => (
                  <li key={`${one.kind}/${one.look}`}>
                    {one.text} <span className="quiet">({say.frames(one.frames)})</span>
                  </li>
                ))}
              </ul>
            </section>
          )}
          {tally.missed.length > 0 && (
            <section aria-label={say.missed}>
              <h2>{say.missed}</h2>
              <ul className="plain-list">
                {tally.missed.map((one) => (
                  <li key={one.text}>
                    {one.text} <span className="quiet">({say.frames(one.frames)})</span>
                  </li>
                ))}
              </ul>
            </section>
          )}
          {clean_ends.length > 0 && (
            <section aria-label={say.ends}>
              <h2>{say.ends}</h2>
              <ul className="plain-list">
                {clean_ends.map((one) => {
                  const item = named(one.glass);
                  const others = item?.sort === "glass" ? item.facts.usable_end : [];
                  return (
                    <li key={`${one.glass}/${one.focal_mm}`} className="lessons-use">
                      <span>{say.end(one.name, one.stops.toFixed(1), String(one.focal_mm))}</span>
                      <Button
                        variant="quiet"
                        size="sm"
                        disabled={item?.sort !== "glass"}
                        onClick={() =>
                          void use(item, {
                            usable_end: [
                              ...others.filter(([focal]) => focal !== one.focal_mm),
                              [one.focal_mm, Math.round(one.stops * 100) / 100],
                            ].toSorted(([a = 0], [b = 0]) => a - b),
                          })
                        }
                      >
                        {say.use}
                      </Button>
                    </li>
                  );
                })}
              </ul>
            </section>
          )}
          {clear_focals.length > 0 && (
            <section aria-label={say.clear}>
              <h2>{say.clear}</h2>
              <ul className="plain-list">
                {clear_focals.map((one) => {
                  const item = named(one.lens);
                  return (
                    <li key={one.lens} className="lessons-use">
                      <span>{say.clearAt(item?.name ?? "", String(one.focal_mm), String(one.rims_mm))}</span>
                      <Button
                        variant="quiet"
                        size="sm"
                        disabled={item?.sort !== "lens"}
                        onClick={() =>
                          void use(item, {
                            clear_from_mm: one.focal_mm,
                            clear_rims_mm: one.rims_mm,
                            ...(one.opening_mm !== null && { clear_opening_mm: one.opening_mm }),
                          })
                        }
                      >
                        {say.use}
                      </Button>
                    </li>
                  );
                })}
              </ul>
            </section>
          )}
        </div>
      </div>
    </div>
  );
}
