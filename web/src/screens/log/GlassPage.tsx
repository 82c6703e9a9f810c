import { Button } from "react-bootstrap";
import { type Known, useEvidence } from "../../questions/log";
import { amend } from "../../state/amend";
import { type Kit, useKit } from "../../state/kit";
import { Fault } from "../../ui/Fault";
import { words } from "../../words";
import { logWords } from "../../words/log";
import { tenthStops } from "../../words/times";
import { EvidencePlot } from "./EvidencePlot";
import { whenText } from "./frameText";
import { useOwnLog } from "./useOwnLog";

const say = logWords.glass;

/** What the frames say of each glass, with the evidence, and one tap to use it. */
export function GlassPage() {
  const kit = useKit();
  const evidence = useEvidence(useOwnLog(kit));
  const data = evidence.shown;
  if (!data && !evidence.error) return <p className="waiting">{logWords.loading}</p>;
  if (!data) return <Fault error={evidence.error} again={evidence.again} />;
  const asides = Object.entries(data.asides);
  return (
    <div className="glass-page" data-stale={evidence.stale || undefined}>
      <header className="heading-line">
        <h1>{say.title}</h1>
        {data.glass.length > 0 && <span className="quiet">{say.used(data.used)}</span>}
      </header>
      {data.glass.length === 0 && (
        <div className="empty">
          <h2>{say.none}</h2>
          <p>{say.noneHint}</p>
        </div>
      )}
      <ol className="glass-list">
        {data.glass.map((known) => (
          <GlassRow key={known.id} known={known} kit={kit} stale={evidence.stale} />
        ))}
      </ol>
      {asides.length > 0 && (
        <p className="quiet">
          {say.asides} {asides.map(([why, n]) => `${n} (${why})`).join(", ")}.
        </p>
      )}
      {data.habits.length > 0 && (
        <details>
          <summary>{say.habits}</summary>
          <ul className="plain-list">
            {data.habits.map((habit) => (
              <li key={habit.began}>
                {whenText(habit.began)}: {say.habit(tenthStops(habit.mean), (2 * habit.sd).toFixed(1))}
                <span className="quiet"> ({logWords.lessons.frames(habit.frames)})</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

function GlassRow({ known, kit, stale }: { known: Known; kit: Kit; stale: boolean }) {
  const [mean, sure] = [tenthStops(known.mean), (2 * known.sd).toFixed(1)];
  const item = kit.items.find((owned) => owned.id === known.id);
  const accept = async () => {
    if (item?.sort !== "glass") return;
    const facts = {
      offset: Math.round(known.mean * 100) / 100,
      give_or_take: Math.round(200 * known.sd) / 100,
      evidence: known.frames > 0 ? "frames" : "pair",
      measured_on: new Date().toISOString().slice(0, 10),
    };
    await amend(item, facts, say.accepted(known.name, mean));
  };
  return (
    <li className="glass-row" aria-label={known.name}>
      <div className="glass-name">
        <h2>{known.name}</h2>
        <span className="quiet">
          {say.label(words.staff.stops(String(known.stops)))}; {say.frames(known.frames, known.pairs)}
        </span>
      </div>
      <EvidencePlot known={known} />
      <div className="glass-says">
        <strong data-testid="glass-mean">{say.measures(mean, sure)}</strong>
        <span className={known.doubted ? "fault" : ""}>{known.advice}</span>
        {known.trend_a_year !== null && <span>{say.trend(tenthStops(known.trend_a_year))}</span>}
      </div>
      <div className="glass-use">
        <span className="quiet">{known.offset === null ? say.labelInUse : say.inUse(tenthStops(known.offset))}</span>
        <Button variant="quiet" onClick={() => void accept()} disabled={!item || stale}>
          {say.accept(mean)}
        </Button>
      </div>
    </li>
  );
}
