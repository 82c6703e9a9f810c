import { logWords } from "../../words/log";
import { LeakPanel, SpecksPanel } from "./CappedPanels";
import { PairPanel } from "./PairPanel";

/** Pictures that measure: a pair for a glass, a capped frame for a body, two for stray light. */
export function MeasurePage() {
  return (
    <div className="measure">
      <h1>{logWords.measure.title}</h1>
      <PairPanel />
      <div className="measure-body">
        <SpecksPanel />
        <LeakPanel />
      </div>
    </div>
  );
}
