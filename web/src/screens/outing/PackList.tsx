import { Button, Form } from "react-bootstrap";
import { TakeAlong } from "../../parts/takealong/TakeAlong";
import { Fault } from "../../ui/Fault";
import { words } from "../../words";
import { outingWords } from "../../words/outing";
import type { Outing } from "../../state/outings";
import { useHazards } from "../../questions/pack";
import type { Plan } from "./usePlan";

interface Props {
  outing: Outing;
  set: (change: Partial<Outing>) => void;
  plan: Plan;
}

/** What goes into the bag for this plan, ticked off as it does. */
export function PackList({ outing, set, plan: { pack, ready } }: Props) {
  const say = outingWords;
  const lines = pack.shown?.lines;
  if (!lines && pack.error) return <Fault error={pack.error} again={pack.again} />;
  if (!lines) return <p className="quiet">{words.bench.waiting}</p>;
  const packed = new Set(outing.packed);
  const left = lines.filter((line) => !packed.has(line.code)).length;
  const tick = (code: string) =>
    set({ packed: packed.has(code) ? outing.packed.filter((ticked) => ticked !== code) : [...outing.packed, code] });
  return (
    <div className="pack">
      <p className="quiet">{say.packWhy}</p>
      <p className="pack-left" aria-live="polite">
        {say.packLeft(left, lines.length)}
      </p>
      <div className="pack-lines">
        {lines.map((line) => (
          <Form.Check
            key={line.code}
            id={`pack-${line.code}`}
            className="choice pack-line"
            checked={packed.has(line.code)}
            onChange={() => tick(line.code)}
            label={
              <>
                <strong>{line.what}</strong>{" "}
                <span>
                  {line.why}
                  {line.missing && ` (${say.packMissing})`}
                </span>
              </>
            }
          />
        ))}
      </div>
      <div className="no-print">
        <Button variant="quiet" disabled={!ready} onClick={() => window.print()}>
          {say.print}
        </Button>
        <TakeAlong />
      </div>
    </div>
  );
}

/** The hazards of the place, ticked, each with the usual caution and whom to ask. */
export function Hazards({ outing, set }: Pick<Props, "outing" | "set">) {
  const say = outingWords;
  const hazards = useHazards();
  const here = new Set(outing.hazards);
  return (
    <div className="hazards">
      <p className="quiet">{say.hazardsWhy}</p>
      {hazards.map((hazard) => (
        <div key={hazard.code} className="hazard" data-here={here.has(hazard.code) || undefined}>
          <Form.Check
            id={`hazard-${hazard.code}`}
            className="choice"
            checked={here.has(hazard.code)}
            onChange={() =>
              set({
                hazards: here.has(hazard.code)
                  ? outing.hazards.filter((ticked) => ticked !== hazard.code)
                  : [...outing.hazards, hazard.code],
              })
            }
            label={<strong>{hazard.name}</strong>}
          />
          {here.has(hazard.code) && (
            <p>
              {hazard.caution} <span className="quiet">{say.hazardsAsk(hazard.ask)}</span>
            </p>
          )}
        </div>
      ))}
      <p className="advice-harm outing-caution">{say.sunCaution}</p>
    </div>
  );
}
