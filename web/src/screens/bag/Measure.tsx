import { useState } from "react";
import type { KitItem } from "../../state/kit";
import { Choice } from "../../ui/fields";
import { bagWords } from "../../words/bag";
import { SpecksPanel, LeakPanel } from "./CappedPanels";
import { CleanEndSteps } from "./CleanEndSteps";
import { CornerSteps } from "./CornerSteps";
import { PairPanel } from "./PairPanel";
import { waysFor } from "./ways";
import { TwoReadings } from "./TwoReadings";

/** The steps of measuring a thing, one way at a time. */
export function Measure({ item, onDone }: { item: KitItem; onDone: () => void }) {
  const ways = waysFor(item);
  const [way, setWay] = useState(ways[0]);
  const say = bagWords.measuring;
  return (
    <div className="measure">
      {ways.length > 1 && (
        <Choice
          name="measure-way"
          label={say.way}
          value={way ?? null}
          choices={ways.map((each) => [each, say[each]] as const)}
          onValue={setWay}
        />
      )}
      {item.sort === "glass" && way === "readings" && <TwoReadings item={item} onDone={onDone} />}
      {item.sort === "glass" && way === "pair" && <PairPanel item={item} onDone={onDone} />}
      {item.sort === "glass" && way === "clean" && <CleanEndSteps item={item} onDone={onDone} />}
      {item.sort === "lens" && <CornerSteps item={item} onDone={onDone} />}
      {item.sort === "body" && way === "specks" && <SpecksPanel body={item} onDone={onDone} />}
      {item.sort === "body" && way === "leak" && <LeakPanel />}
    </div>
  );
}
