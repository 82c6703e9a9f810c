import { useState } from "react";
import { Button } from "react-bootstrap";
import type { Glass } from "../../state/bench";
import { Choice } from "../../ui/fields";
import { FoldedChoice } from "../../ui/kinds/FoldedChoice";
import { MainAction } from "../../ui/kinds/MainAction";
import { RowLine } from "../../ui/kinds/RowLine";
import { Value } from "../../ui/kinds/Value";
import { ValueChoice } from "../../ui/kinds/ValueChoice";
import { kindsWords as say } from "../../words/kinds";
import { FilterBlock } from "../../parts/shelf/FilterBlock";
import "./kinds-page.css";

const NINE: Glass = {
  id: "nine",
  name: "Slot ND 9",
  kind: "solid",
  stops: 9,
  offset: null,
  offset_sd: 0.1,
  low: 9,
  high: 9,
  members: [],
};
const TURNING: Glass = { ...NINE, id: "turning", name: "Ring VND 2–5", kind: "variable", stops: 2, low: 2, high: 5 };
const SPEEDS = ["1/60", "1/50", "1/40", "1/30", "1/25"];
const SKIES = ["falling", "steady", "rising"].map((sky) => [sky, sky] as const);

/** Every kind of control, each doing what it does elsewhere, for whoever builds with them. */
export function KindsScreen() {
  const [place, setPlace] = useState(2);
  const [sky, setSky] = useState("steady");
  const [on, setOn] = useState(false);
  const [opened, setOpened] = useState(0);
  const step = (by: 1 | -1) => setPlace(Math.min(SPEEDS.length - 1, Math.max(0, place + by)));
  return (
    <div className="kinds-page">
      <h1>{say.title}</h1>
      <section aria-label={say.value}>
        <h2>{say.value}</h2>
        <Value what={say.shutter} value={SPEEDS[place] ?? ""} onStep={step} onType={() => step(1)} />
        <ValueChoice caption={say.light} value={sky} choices={SKIES} onValue={setSky} />
      </section>
      <section aria-label={say.choice}>
        <h2>{say.choice}</h2>
        <Choice name="kinds-sky" label={say.light} value={sky} choices={SKIES} onValue={setSky} wide />
        <FoldedChoice label={say.folded} value={sky} choices={SKIES} onValue={setSky} />
      </section>
      <section aria-label={say.block}>
        <h2>{say.block}</h2>
        <div className="shelf-line">
          {[NINE, TURNING].map((glass, at) => (
            <FilterBlock
              key={glass.id}
              glass={glass}
              graded={0}
              short={say.mounts[at] ?? ""}
              number={at + 1}
              on={at === 0 && on}
              wasOn={false}
              disabled={false}
              reached={at === 0}
              onToggle={() => setOn(!on)}
            />
          ))}
        </div>
      </section>
      <section aria-label={say.row}>
        <h2>{say.row}</h2>
        <RowLine name={say.rowName} why={say.rowWhy} result={say.count(opened)} onOpen={() => setOpened(opened + 1)} />
      </section>
      <section aria-label={say.quiet}>
        <h2>{say.quiet}</h2>
        <div className="quiet-actions">
          <Button variant="quiet" onClick={() => setOpened(0)}>
            {say.quietAct}
          </Button>
        </div>
        <input className="form-control" aria-label={say.field} placeholder={say.field} />
      </section>
      <section aria-label={say.main}>
        <h2>{say.main}</h2>
        <MainAction onAct={() => setOpened(opened + 1)} result={say.count(opened)}>
          {say.mainAct}
        </MainAction>
      </section>
    </div>
  );
}
