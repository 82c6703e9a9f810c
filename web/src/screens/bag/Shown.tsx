import { Button } from "react-bootstrap";
import type { Evidence, Known, Learnt } from "../../questions/log";
import { takenIntoFilter } from "../../state/bench";
import { amend } from "../../state/amend";
import type { ItemOf, KitItem } from "../../state/kit";
import { bagWords } from "../../words/bag";
import { tenthStops } from "../../words/times";
import { EvidencePlot } from "./EvidencePlot";
import { today } from "../../words/zone";
import { withEnd } from "./cleanEnds";

const say = bagWords.own;

interface Props {
  item: KitItem;
  evidence: Evidence | undefined;
  learnt: Learnt | undefined;
  stale: boolean;
}

/** What the frames show of a thing, and one tap to use it. */
export function Shown({ item, evidence, learnt, stale }: Props) {
  if (item.sort === "lens") {
    const found = learnt?.clear_focals.find((each) => each.lens === item.id);
    if (!found) return null;
    const facts = {
      clear_from_mm: found.focal_mm,
      clear_rims_mm: found.rims_mm,
      clear_seen_on: today(),
      ...(found.opening_mm !== null && { clear_opening_mm: found.opening_mm }),
    };
    const { clear_from_mm, clear_rims_mm } = item.facts;
    const inUse = clear_from_mm === found.focal_mm && clear_rims_mm === found.rims_mm;
    return (
      <Limit
        text={say.clearAt(String(found.focal_mm), String(found.rims_mm))}
        use={inUse || stale ? null : () => void amend(item, facts, say.usedNow)}
      />
    );
  }
  if (item.sort !== "glass") return null;
  if (item.facts.kind === "variable")
    return learnt?.clean_ends
      .filter((found) => found.glass === item.id)
      .map((found) => (
        <CleanEnd key={found.focal_mm} item={item} focal={found.focal_mm} stops={found.stops} stale={stale} />
      ));
  if (item.facts.kind !== "solid") return null;
  const known = evidence?.glass.find((each) => each.id === item.id);
  return known ? <OfFrames item={item} known={known} stale={stale} /> : <p className="quiet mb-0">{say.none}</p>;
}

function CleanEnd(props: { item: ItemOf<"glass">; focal: number; stops: number; stale: boolean }) {
  const { item, focal, stops, stale } = props;
  const { usable_end } = item.facts;
  const end = [focal, Math.round(stops * 100) / 100];
  const inUse = usable_end.some(([at, to]) => at === end[0] && to === end[1]);
  const facts = { usable_end: withEnd(usable_end, end) };
  return (
    <Limit
      text={say.end(stops.toFixed(1), String(focal))}
      use={inUse || stale ? null : () => void amend(item, facts, say.usedNow)}
    />
  );
}

function OfFrames({ item, known, stale }: { item: ItemOf<"glass">; known: Known; stale: boolean }) {
  const [mean, sure] = [tenthStops(known.mean), (2 * known.sd).toFixed(1)];
  const accept = async () => {
    const facts = {
      offset: Math.round(known.mean * 100) / 100,
      give_or_take: Math.round(200 * known.sd) / 100,
      evidence: known.frames > 0 ? "frames" : "pair",
      measured_on: today(),
    };
    await amend(item, facts, say.accepted(known.name, mean));
    takenIntoFilter();
  };
  return (
    <section className="of-frames" aria-label={say.title}>
      <EvidencePlot known={known} />
      <div className="of-frames-says">
        <span>
          <strong data-testid="glass-mean">{say.measures(mean, sure)}</strong>{" "}
          <span className="quiet">({say.frames(known.frames, known.pairs)})</span>
        </span>
        <span className={known.doubted ? "fault" : ""}>{known.advice}</span>
        {known.trend_a_year !== null && <span>{say.trend(tenthStops(known.trend_a_year))}</span>}
        <Button variant="quiet" disabled={stale} onClick={() => void accept()}>
          {say.accept(mean)}
        </Button>
      </div>
    </section>
  );
}

/** A limit that frames have shown, and one tap to write it to the thing. */
function Limit({ text, use }: { text: string; use: (() => void) | null }) {
  return (
    <p className="limit">
      <span>{text}</span>
      <Button variant="quiet" size="sm" disabled={!use} onClick={() => use?.()}>
        {say.use}
      </Button>
    </p>
  );
}
