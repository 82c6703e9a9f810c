import { useEffect, useRef, useState } from "react";
import { Button } from "react-bootstrap";
import { useChoiceLabels } from "../../questions/kit";
import type { Evidence, Learnt } from "../../questions/log";
import type { Draft, KitItem } from "../../state/kit";
import { bagWords } from "../../words/bag";
import { Shown } from "./Shown";
import { ItemForm } from "./ItemForm";
import { Measure } from "./Measure";
import { waysFor } from "./ways";
import { sentenceOf } from "./sentences";
import type { Place } from "./sorting";

export interface OpenedProps {
  draft: Draft;
  isNew: boolean;
  /** The others of its sort that are in the bag, itself among them. */
  peers: KitItem[];
  evidence: Evidence | undefined;
  learnt: Learnt | undefined;
  /** Whether what the log says is being asked anew. */
  stale: boolean;
  onDone: (id: string | null) => void;
  onCopy: (copy: Draft) => void;
  onMoved: (place: Place) => void;
}

/** One thing of the bag, opened in its place: what is known of it, how to know it better, and its few facts. */
export function Opened({ draft, isNew, peers, evidence, learnt, stale, onDone, onCopy, onMoved }: OpenedProps) {
  const labelOf = useChoiceLabels();
  const [measuring, setMeasuring] = useState(false);
  const item = peers.find((each) => each.id === draft.id);
  const group = peers.filter((each) => each.sort !== "glass" || item?.sort !== "glass" || sameMount(each, item));
  const box = useRef<HTMLElement>(null);
  // Whoever opens something wants to see it, not the row above it.
  useEffect(() => {
    box.current?.closest("li, section")?.scrollIntoView({ block: "nearest" });
  }, []);
  return (
    <article ref={box} className="opened" aria-label={draft.name || bagWords.sorts[draft.sort]}>
      {item?.sort === "glass" && <p className="opened-says">{sentenceOf(item, labelOf)}</p>}
      {item && <Shown item={item} evidence={evidence} learnt={learnt} stale={stale} />}
      {item && waysFor(item).length > 0 && (
        <Button
          variant="choice"
          className="opened-measure"
          aria-pressed={measuring}
          onClick={() => setMeasuring(!measuring)}
        >
          {measuring ? bagWords.measuring.close : bagWords.measuring.open}
        </Button>
      )}
      {item && measuring && <Measure item={item} onDone={() => setMeasuring(false)} />}
      {/* What was typed stays while something is measured. */}
      <div hidden={measuring}>
        <ItemForm
          draft={draft}
          isNew={isNew}
          group={group.map((each) => each.id)}
          onDone={onDone}
          onCopy={onCopy}
          onMoved={onMoved}
        />
      </div>
    </article>
  );
}

function sameMount(first: KitItem, other: KitItem): boolean {
  return first.sort === "glass" && other.sort === "glass" && first.facts.mount === other.facts.mount;
}
