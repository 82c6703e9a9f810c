import { Button } from "react-bootstrap";
import { Dropdown } from "../../ui/opened";
import { useSearchParams } from "wouter";
import { useEffect, useRef, useState } from "react";
import { useChoiceLabels } from "../../questions/kit";
import { useEvidence, useLearnt } from "../../questions/log";
import { itemsOf } from "../../state/bag";
import { type Draft, draftOf, keepItems, type KitItem, orderItems, type Sort, useKit } from "../../state/kit";
import { useOwnLog } from "../../state/ownLog";
import { useStarter } from "../../state/starter";
import { faultText } from "../../ui/faultText";
import { say } from "../../ui/say";
import { words } from "../../words";
import { bagWords } from "../../words/bag";
import { BagFiles } from "./BagFiles";
import { Filters } from "./Filters";
import { Opened } from "./Opened";
import { sentenceOf } from "./sentences";
import { type Place, placed } from "./sorting";

const SORTS = Object.keys(bagWords.groups) as Sort[];
const OTHERS = SORTS.filter((sort) => sort !== "glass");

/** The bag: filters as blocks, the rest as sentences; what is touched opens in its place. */
export function BagPage() {
  const kit = useKit();
  const labelOf = useChoiceLabels();
  const own = useOwnLog(kit);
  const [evidence, learnt] = [useEvidence(own), useLearnt(own)];
  const [params, setParams] = useSearchParams();
  const [fresh, setFresh] = useState<Draft | null>(null);
  const starter = useStarter();
  const there = useRef(false);
  useEffect(() => {
    there.current = true;
    return () => {
      there.current = false;
    };
  }, []);
  const open = fresh ? null : params.get("open");

  if (kit.loading) return <p className="waiting">{words.bench.waiting}</p>;

  const setOpen = (id: string | null) => {
    // Whoever has gone on meanwhile is not taken back here by something that ends late.
    if (!there.current) return;
    setFresh(null);
    setParams(id === null ? {} : { open: id }, { replace: true });
  };
  /** What was done to one thing is over; where another one was opened meanwhile, that one stays. */
  const done = (of: string, id: string | null) => {
    const now = new URLSearchParams(globalThis.location.search).get("open");
    if (now === null || now === of) setOpen(id);
  };
  const add = (sort: Sort) =>
    setFresh({ id: crypto.randomUUID(), sort, name: "", note: "", retired: false, facts: {} });
  const move = async (place: Place) => {
    const before = kit.items.map((item) => item.id);
    const name = kit.items.find((item) => item.id === place.id)?.name ?? "";
    await orderItems(placed(before, place));
    say({ text: bagWords.moved(name), action: { label: bagWords.undo, act: () => void orderItems(before) } });
  };
  const opened = (draft: Draft, isNew = false) => (
    <Opened
      key={draft.id}
      draft={draft}
      isNew={isNew}
      peers={kit.items.filter((item) => item.sort === draft.sort && !item.retired)}
      evidence={evidence.shown}
      stale={evidence.stale}
      learnt={learnt.shown}
      onDone={isNew ? setOpen : (id) => done(draft.id, id)}
      onCopy={setFresh}
      onMoved={(place) => void move(place)}
    />
  );
  const chosen = kit.items.find((item) => item.id === open);
  const line = (item: KitItem) => (
    <li key={item.id}>
      <button
        type="button"
        className="sentence-button"
        aria-expanded={item.id === open}
        onClick={() => setOpen(item.id === open ? null : item.id)}
      >
        <strong>{item.name}</strong> <span>{sentenceOf(item, labelOf)}</span>
      </button>
      {item.id === open && opened(draftOf(item))}
    </li>
  );
  const away = kit.items.filter((item) => item.retired);
  const { used = 0, asides = {} } = evidence.shown ?? {};

  return (
    <div className="bag-page">
      <h1 className="visually-hidden">{bagWords.title}</h1>
      <section className="bag-filters" aria-labelledby="bag-filters">
        <header className="heading-line">
          <h2 id="bag-filters">{bagWords.groups.glass}</h2>
          <Dropdown align="end">
            <Dropdown.Toggle variant="quiet">{bagWords.add}</Dropdown.Toggle>
            <Dropdown.Menu>
              {["glass" as const, ...OTHERS].map((sort) => (
                <Dropdown.Item as="button" key={sort} onClick={() => add(sort)}>
                  {bagWords.sorts[sort]}
                </Dropdown.Item>
              ))}
            </Dropdown.Menu>
          </Dropdown>
        </header>
        {kit.guest && <p className="quiet mb-0">{bagWords.guest}</p>}
        {kit.items.length === 0 && (
          <div className="empty">
            <h2>{bagWords.empty}</h2>
            <p>{bagWords.emptyHint}</p>
            <Button
              variant="signal"
              disabled={!starter}
              onClick={() => {
                keepItems((starter?.kit.items ?? []).map(draftOf)).catch((error: unknown) =>
                  say({ text: faultText(error) }),
                );
              }}
            >
              {bagWords.starter}
            </Button>
          </div>
        )}
        {fresh && opened(fresh, true)}
        <Filters
          filters={itemsOf(kit.items, "glass")}
          known={evidence.shown?.glass ?? []}
          open={open}
          onOpen={setOpen}
          onMoved={(place) => void move(place)}
        >
          {chosen && opened(draftOf(chosen))}
        </Filters>
        <p className="quiet bag-order">{bagWords.order}</p>
        {used > 0 && (
          <p className="quiet mb-0">
            {bagWords.own.used(used)}
            {Object.keys(asides).length > 0 &&
              ` ${bagWords.own.asides} ${Object.entries(asides)
                .map(([why, n]) => `${n} (${why})`)
                .join(", ")}.`}
          </p>
        )}
      </section>
      <div className="bag-things">
        {OTHERS.filter((sort) => itemsOf(kit.items, sort).length > 0).map((sort) => (
          <section key={sort} aria-label={bagWords.groups[sort]}>
            <h2>{bagWords.groups[sort]}</h2>
            <ul>{itemsOf(kit.items, sort).map(line)}</ul>
          </section>
        ))}
        {away.length > 0 && (
          <section aria-label={bagWords.away} className="bag-away">
            <h2>{bagWords.away}</h2>
            <ul>{away.map(line)}</ul>
          </section>
        )}
        <BagFiles kit={kit} />
      </div>
    </div>
  );
}
