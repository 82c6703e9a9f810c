import { Dropdown } from "../../ui/opened";
import { Link, useSearchParams } from "wouter";
import { AccountButton } from "../../parts/account/AccountButton";
import { useEffect, useRef, useState } from "react";
import { useChoiceLabels } from "../../questions/kit";
import { useEvidence, useLearnt } from "../../questions/log";
import { itemsOf } from "../../state/bag";
import { type Draft, draftOf, keepItems, type KitItem, orderItems, type Sort, useKit } from "../../state/kit";
import { useOwnLog } from "../../state/ownLog";
import { useBench } from "../../state/bench";
import { useStarter } from "../../state/starter";
import { faultText } from "../../ui/faultText";
import { MainAction } from "../../ui/kinds/MainAction";
import { say } from "../../ui/say";
import { words } from "../../words";
import { bagWords } from "../../words/bag";
import { BagFiles } from "./BagFiles";
import { Filters } from "./Filters";
import { ReachGlance } from "./ReachGlance";
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
  const [laid] = useBench();
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
  const filters = itemsOf(kit.items, "glass");
  const away = kit.items.filter((item) => item.retired);
  const { used = 0, asides = {} } = evidence.shown ?? {};

  const openedGlass = fresh
    ? opened(fresh, true)
    : chosen?.sort === "glass" && !chosen.retired && opened(draftOf(chosen));
  return (
    <div className="bag-page" data-open={Boolean(openedGlass) || undefined}>
      <h1 className="visually-hidden">{bagWords.title}</h1>
      <div className="bag-scroll">
        <section className="bag-filters" aria-labelledby="bag-filters">
          <h2 id="bag-filters">{bagWords.count(filters.length)}</h2>
          {kit.guest && <p className="quiet mb-0">{bagWords.guest}</p>}
          {kit.items.length === 0 && (
            <div className="empty">
              <p>{bagWords.emptyHint}</p>
            </div>
          )}
          {filters.length > 0 && (
            <Filters
              filters={filters}
              known={evidence.shown?.glass ?? []}
              open={open}
              onOpen={setOpen}
              onMoved={(place) => void move(place)}
            />
          )}
          {used > 0 && (
            <p className="bag-used">
              {bagWords.own.used(used)}
              {Object.keys(asides).length > 0 &&
                ` ${bagWords.own.asides} ${Object.entries(asides)
                  .map(([why, n]) => `${n} (${why})`)
                  .join(", ")}.`}
            </p>
          )}
        </section>
        {openedGlass ? (
          <div className="bag-opened">{openedGlass}</div>
        ) : (
          laid && <ReachGlance laid={laid} wished={learnt.shown?.wished ?? []} />
        )}
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
        </div>
      </div>
      <div className="bag-foot quiet-actions">
        <Link to="/bag/reach" className="plain-link">
          {bagWords.pages.reach}
        </Link>
        <Link to="/bag/card" className="plain-link">
          {bagWords.pages.card}
        </Link>
        <Dropdown>
          <Dropdown.Toggle variant="quiet">{bagWords.add}</Dropdown.Toggle>
          <Dropdown.Menu>
            {OTHERS.map((sort) => (
              <Dropdown.Item as="button" key={sort} onClick={() => add(sort)}>
                {bagWords.sorts[sort]}
              </Dropdown.Item>
            ))}
          </Dropdown.Menu>
        </Dropdown>
        <BagFiles kit={kit} />
        <span className="bag-account">
          <AccountButton />
        </span>
      </div>
      <div className="bag-action action-place">
        {kit.items.length === 0 ? (
          <MainAction
            disabled={!starter}
            onAct={() => {
              keepItems((starter?.kit.items ?? []).map(draftOf)).catch((error: unknown) =>
                say({ text: faultText(error) }),
              );
            }}
          >
            {bagWords.starter}
          </MainAction>
        ) : (
          <MainAction onAct={() => add("glass")}>{bagWords.addFilter}</MainAction>
        )}
      </div>
    </div>
  );
}
