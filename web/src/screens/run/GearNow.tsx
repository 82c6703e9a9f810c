import { Button, Form } from "react-bootstrap";
import { itemsOf } from "../../state/bag";
import { remember, useHabits } from "../../state/habits";
import { useKit } from "../../state/kit";
import type { Armed } from "../../state/armed";
import { change } from "../../state/running";
import { Choice } from "../../ui/fields";
import { useNow } from "../../ui/useNow";
import { runWords } from "../../words/run";
import { nowMs } from "../../ui/worldClock";

const say = runWords.gear;
const HOUR = 3_600_000;
/** From here on [s] a frame is worth a look at the battery. */
const LONG_S = 60;
const SHARES = [1, 0.75, 0.5, 0.25] as const;

/** What only the hand that holds it knows now: which remote, whether it was turned upright, what the battery has left. */
export function GearNow({ armed: { list, plan }, left }: { armed: Armed; left: number | null }) {
  const { releaseId, battery } = useHabits();
  const releases = itemsOf(useKit().items, "release");
  const now = useNow(60_000);
  if (!list) return null;
  const polarises = plan.stack.some(({ kind }) => kind === "polariser" || kind === "combined");
  const looked = battery === null ? Infinity : now - Date.parse(battery.at);
  const asks = list.body?.["battery_wh"] != null && plan.answer.set_seconds >= LONG_S;
  return (
    <div className="gear-now">
      {releases.length > 1 && (
        <Choice
          name="release"
          label={say.release}
          value={releaseId}
          choices={releases.map((item) => [item.id, item.name] as const)}
          onValue={(id) => {
            remember({ releaseId: id });
            const facts = releases.find((item) => item.id === id)?.facts;
            change({ list: { ...list, release: facts ? { ...facts } : null } });
          }}
        />
      )}
      {polarises && (
        <Form.Check
          id="upright"
          label={say.upright}
          checked={list.upright}
          onChange={(event) => change({ list: { ...list, upright: event.target.checked } })}
        />
      )}
      {asks && looked > HOUR && (
        <Choice
          name="battery"
          label={say.battery}
          value={null}
          choices={SHARES.map((share) => [share, say.shares[String(share)] ?? ""] as const)}
          onValue={(share) => remember({ battery: { share, at: new Date(nowMs()).toISOString() } })}
        />
      )}
      {asks && left !== null && looked <= HOUR && (
        <p className="quiet mb-0">
          {say.left(Math.max(0, Math.round(left * 100)))}{" "}
          <Button variant="link" className="plain-link" onClick={() => remember({ battery: null })}>
            {say.look}
          </Button>
        </p>
      )}
    </div>
  );
}
