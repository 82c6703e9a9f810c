import { type ChangeEvent, useRef, useState } from "react";
import { Button, Dropdown } from "react-bootstrap";
import { askKitFile } from "../../questions/kit";
import { type Draft, draftOf, keepItems, type KitItem, orderItems, type Sort, useKit } from "../../state/kit";
import { useStarter } from "../../state/starter";
import { faultText } from "../../ui/faultText";
import { saveAs } from "../../ui/saveAs";
import { say } from "../../ui/say";
import { words } from "../../words";
import { kitWords } from "../../words/kit";
import { FileDialog } from "./FileDialog";
import { ItemForm } from "./ItemForm";
import { Reach } from "./Reach";
import { StrengthBar } from "./StrengthBar";
import "./kit.css";

const SORTS = Object.keys(kitWords.groups) as Sort[];
const MOST_BYTES = 400_000;

/** What somebody owns, by sort, with a form for what is chosen. */
export function KitScreen() {
  const kit = useKit();
  const [chosen, setChosen] = useState<string | null>(null);
  const [fresh, setFresh] = useState<Draft | null>(null);
  const [file, setFile] = useState<{ name: string; text: string } | null>(null);
  const [reach, setReach] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const starter = useStarter();
  const item = kit.items.find((candidate) => candidate.id === chosen);
  const draft = fresh ?? (item && draftOf(item));

  if (kit.loading) return <p className="waiting">{words.bench.waiting}</p>;

  const add = (sort: Sort) => {
    setFresh({ id: crypto.randomUUID(), sort, name: "", note: "", retired: false, facts: {} });
    setChosen(null);
  };
  const move = (moved: KitItem, by: -1 | 1) => {
    const ids = kit.items.map((each) => each.id);
    const peers = kit.items.filter((each) => each.sort === moved.sort).map((each) => each.id);
    const other = peers[peers.indexOf(moved.id) + by];
    if (!other) return;
    const [at, to] = [ids.indexOf(moved.id), ids.indexOf(other)];
    [ids[at], ids[to]] = [other, moved.id];
    void orderItems(ids);
  };
  const readFile = async (event: ChangeEvent<HTMLInputElement>) => {
    const picked = event.target.files?.[0];
    event.target.value = "";
    if (!picked) return;
    if (picked.size > MOST_BYTES) say({ text: kitWords.file.tooLarge });
    else setFile({ name: picked.name, text: await picked.text() });
  };

  return (
    <div className="kit" data-open={draft ? "item" : undefined}>
      <h1 className="visually-hidden">{kitWords.title}</h1>
      <section className="kit-list" aria-label={kitWords.title}>
        <header className="heading-line">
          <span className="kit-title" aria-hidden="true">
            {kitWords.title}
          </span>
          <Dropdown align="end">
            <Dropdown.Toggle variant="quiet">{kitWords.add}</Dropdown.Toggle>
            <Dropdown.Menu>
              {SORTS.map((sort) => (
                <Dropdown.Item as="button" key={sort} onClick={() => add(sort)}>
                  {kitWords.sorts[sort]}
                </Dropdown.Item>
              ))}
            </Dropdown.Menu>
          </Dropdown>
        </header>
        {kit.guest && <p className="quiet">{kitWords.guest}</p>}
        {kit.items.length === 0 && (
          <div className="empty">
            <h2>{kitWords.empty}</h2>
            <p>{kitWords.emptyHint}</p>
            <Button
              variant="signal"
              disabled={!starter}
              onClick={() => tried(keepItems((starter?.kit.items ?? []).map(draftOf)))}
            >
              {kitWords.starter}
            </Button>
          </div>
        )}
        {SORTS.filter((sort) => kit.items.some((candidate) => candidate.sort === sort)).map((sort) => (
          <section key={sort} aria-label={kitWords.groups[sort]}>
            <h2>{kitWords.groups[sort]}</h2>
            <ul>
              {kit.items
                .filter((candidate) => candidate.sort === sort)
                .map((candidate) => (
                  <li key={candidate.id} data-retired={candidate.retired || undefined}>
                    <button
                      type="button"
                      className="kit-item"
                      aria-pressed={candidate.id === chosen && !fresh}
                      onClick={() => {
                        setFresh(null);
                        setChosen(candidate.id);
                      }}
                    >
                      <span>{candidate.name}</span>
                      <span className="quiet">{summary(candidate)}</span>
                      {candidate.sort === "glass" && !candidate.retired && <StrengthBar item={candidate} />}
                    </button>
                    <button
                      type="button"
                      className="kit-move"
                      aria-label={`${kitWords.up}: ${candidate.name}`}
                      onClick={() => move(candidate, -1)}
                    >
                      <span aria-hidden="true">↑</span>
                    </button>
                    <button
                      type="button"
                      className="kit-move"
                      aria-label={`${kitWords.down}: ${candidate.name}`}
                      onClick={() => move(candidate, 1)}
                    >
                      <span aria-hidden="true">↓</span>
                    </button>
                  </li>
                ))}
            </ul>
          </section>
        ))}
        <footer className="kit-file">
          <Button variant="quiet" onClick={() => setReach(true)}>
            {kitWords.reach.open}
          </Button>
          <Button variant="quiet" onClick={() => tried(saveFile(kit.items))}>
            {kitWords.file.out}
          </Button>
          <Button variant="quiet" onClick={() => picker.current?.click()}>
            {kitWords.file.in}
          </Button>
          <input
            ref={picker}
            type="file"
            accept=".json,application/json"
            hidden
            aria-label={kitWords.file.in}
            onChange={(event) => void readFile(event)}
          />
        </footer>
      </section>
      <section className="kit-open" aria-label={draft ? draft.name || kitWords.sorts[draft.sort] : kitWords.open}>
        {draft ? (
          <ItemForm
            key={draft.id}
            draft={draft}
            isNew={fresh !== null}
            onDone={(id) => {
              setFresh(null);
              setChosen(id);
            }}
            onCopy={(copy) => setFresh(copy)}
          />
        ) : (
          <p className="quiet kit-none">{kitWords.pickOne}</p>
        )}
      </section>
      {file && <FileDialog file={file} kit={kit} onClose={() => setFile(null)} />}
      {reach && <Reach kit={kit} onClose={() => setReach(false)} />}
    </div>
  );
}

/** What tells items of a sort apart at a glance. */
function summary(item: KitItem): string {
  if (item.retired) return kitWords.retired;
  switch (item.sort) {
    case "body":
      return `${item.facts.sensor_width_mm} × ${item.facts.sensor_height_mm} mm`;
    case "lens": {
      const { focal_min_mm, focal_max_mm } = item.facts;
      return focal_min_mm === focal_max_mm ? `${focal_min_mm} mm` : `${focal_min_mm}–${focal_max_mm} mm`;
    }
    case "glass": {
      const { stops, stops_max, offset } = item.facts;
      const range = stops_max == null ? String(stops) : `${stops}–${stops_max}`;
      return words.staff.stops(offset == null ? range : `${range} (${signed(offset)})`);
    }
    default:
      return "";
  }
}

function signed(offset: number): string {
  return `${offset < 0 ? "−" : "+"}${Math.abs(offset).toFixed(1)}`;
}

async function saveFile(items: KitItem[]): Promise<void> {
  saveAs("jackstaff-kit.json", new Blob([await askKitFile(items)], { type: "application/json" }));
}

/** What did not come about is said. */
function tried(work: Promise<void>): void {
  work.catch((error: unknown) => say({ text: faultText(error) }));
}
