import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { type Fault, Refused } from "../../api/client";
import { type Fact, useFacts } from "../../questions/kit";
import { same, takeBack } from "../../state/amend";
import { type Draft, forgetItem, keepItems } from "../../state/kit";
import { faultText } from "../../ui/faultText";
import { say } from "../../ui/say";
import { bagWords } from "../../words/bag";
import { FactField } from "./FactField";
import { FaultText } from "./FaultText";
import { LabelHelp } from "./LabelHelp";
import { type Place, stepped } from "./sorting";

interface Props {
  draft: Draft;
  isNew: boolean;
  /** The ids among which it has its place. */
  group: string[];
  onDone: (id: string | null) => void;
  onCopy: (copy: Draft) => void;
  onMoved: (place: Place) => void;
}

/** The facts of one thing: the few that decide something stand open, each with what it is for; the core says what is wrong. */
export function ItemForm({ draft, isNew, group, onDone, onCopy, onMoved }: Props) {
  // Only what is typed is held here: the rest is the thing's own, which may change beside the form.
  const [typed, setTyped] = useState<Partial<Pick<Draft, "name" | "note" | "facts">>>({});
  const { name, note } = { ...draft, ...typed };
  const facts: Record<string, unknown> = { ...draft.facts, ...typed.facts };
  const [faults, setFaults] = useState<Fault[]>([]);
  const described = useFacts(draft.sort);
  const valueOf = (fact: Fact) => facts[fact.name] ?? initial(fact);
  const shown = described.filter(
    (fact) =>
      !fact.only_for ||
      fact.only_for.values.includes(String(facts[fact.only_for.fact] ?? firstChoice(described, fact.only_for.fact))),
  );
  // What kind of thing it is was decided when it came.
  const opens = (fact: Fact) => fact.opens && (isNew || fact.name !== "kind");
  const [open, rest] = [shown.filter(opens), shown.filter((fact) => !opens(fact))];
  const groups = [...new Set(rest.map((fact) => fact.group))];
  const faultOf = (field: string) => faults.find((fault) => fault.field.replace("items.0.", "").startsWith(field));
  const differs = Object.entries(typed.facts ?? {}).some(([key, value]) => !same(value, draft.facts[key]));
  const changed = isNew || name !== draft.name || note !== draft.note || differs;
  const set = (change: Record<string, unknown>) => setTyped({ ...typed, facts: { ...typed.facts, ...change } });

  /** Keep one state of this thing, with the one before it to go back to. */
  const keep = async (next: Draft, message: string, before: Draft | null) => {
    try {
      await keepItems([next]);
    } catch (error) {
      setFaults(error instanceof Refused ? error.faults : []);
      say({ text: faultText(error) });
      return false;
    }
    setFaults([]);
    setTyped({});
    const undo = () =>
      void (before ? takeBack([{ before, after: next }]) : forgetItem(next.id)).then(() => onDone(before?.id ?? null));
    say({ text: message, action: { label: bagWords.undo, act: undo } });
    return true;
  };
  /** The thing as it stands in the form. */
  const written = (): Draft => {
    // Until it is known what such a thing has, nothing of it is left out.
    const known = described.length > 0 ? new Set(shown.map((fact) => fact.name)) : null;
    const ownFacts = Object.entries(facts).filter(
      ([key, value]) => (known === null || known.has(key)) && value !== "" && value !== undefined,
    );
    return { ...draft, name, note, facts: Object.fromEntries(ownFacts) };
  };
  const save = async (event: SubmitEvent) => {
    event.preventDefault();
    const next = written();
    const message = isNew ? bagWords.added(name) : bagWords.saved(name);
    if (await keep(next, message, isNew ? null : draft)) onDone(draft.id);
  };
  const retire = async () => {
    const next = { ...written(), retired: !draft.retired };
    if (await keep(next, bagWords[next.retired ? "retiredNow" : "saved"](name), draft)) onDone(draft.id);
  };
  const remove = async () => {
    const undo = await forgetItem(draft.id);
    say({
      text: bagWords.removed(draft.name),
      action: { label: bagWords.undo, act: () => void undo().then(() => onDone(draft.id)) },
    });
    onDone(null);
  };

  const field = (fact: Fact) => (
    <FactField
      key={fact.name}
      fact={fact}
      label={labelOf(fact, facts, described)}
      value={valueOf(fact)}
      fault={faultOf(`facts.${fact.name}`)}
      onChange={(value) => set({ [fact.name]: value })}
    />
  );
  const moves = [
    [stepped(draft.id, group, -1), bagWords.earlier],
    [stepped(draft.id, group, 1), bagWords.later],
  ] as const;

  return (
    <Form className="item-form" onSubmit={(event) => void save(event)} noValidate>
      <Form.Group controlId="item-name" className="item-name">
        <Form.Label>{bagWords.name}</Form.Label>
        <Form.Control
          value={name}
          maxLength={60}
          autoComplete="off"
          isInvalid={Boolean(faultOf("name"))}
          aria-describedby={faultOf("name") ? "item-name-fault" : undefined}
          onChange={(event) => setTyped({ ...typed, name: event.target.value })}
        />
        <FaultText id="item-name-fault" fault={faultOf("name")} />
      </Form.Group>
      {draft.sort === "glass" && <LabelHelp facts={facts} set={set} />}
      {described.length === 0 && <p className="quiet mb-0">{bagWords.factsComing}</p>}
      <div className="fact-grid">{open.map(field)}</div>
      <details open={rest.some((fact) => faultOf(`facts.${fact.name}`)) || undefined}>
        <summary>{bagWords.more}</summary>
        {groups.map((part) => (
          <fieldset key={part} className="fact-group">
            {part && <legend>{part}</legend>}
            <div className="fact-grid">{rest.filter((fact) => fact.group === part).map(field)}</div>
          </fieldset>
        ))}
        <Form.Group controlId="item-note">
          <Form.Label>{bagWords.note}</Form.Label>
          <Form.Control
            value={note}
            maxLength={500}
            autoComplete="off"
            onChange={(event) => setTyped({ ...typed, note: event.target.value })}
          />
        </Form.Group>
        {!isNew && (
          <div className="item-more">
            <Button
              variant="quiet"
              onClick={() =>
                onCopy({ ...written(), id: crypto.randomUUID(), name: bagWords.copyOf(name).slice(0, 60) })
              }
            >
              {bagWords.copy}
            </Button>
            {moves.map(([place, label]) => (
              <Button key={label} variant="quiet" disabled={!place} onClick={() => place && onMoved(place)}>
                {label}
              </Button>
            ))}
            <Button variant="quiet" onClick={() => void remove()}>
              {bagWords.forget}
            </Button>
          </div>
        )}
      </details>
      <footer className="item-actions">
        <Button variant="signal" type="submit" disabled={!changed}>
          {bagWords.save}
        </Button>
        {!isNew && (
          <Button variant="quiet" onClick={() => void retire()} title={bagWords.retireHint}>
            {draft.retired ? bagWords.unretire : bagWords.retire}
          </Button>
        )}
        <Button variant="quiet" onClick={() => onDone(null)}>
          {changed ? bagWords.discard : bagWords.close}
        </Button>
      </footer>
    </Form>
  );
}

/** What a fact is called while the thing is what it is. */
function labelOf(fact: Fact, facts: Record<string, unknown>, described: Fact[]): string {
  const { called } = fact;
  if (!called) return fact.label;
  return called.labels[String(facts[called.fact] ?? firstChoice(described, called.fact))] ?? fact.label;
}

function initial(fact: Fact): unknown {
  return fact.default;
}

function firstChoice(facts: Fact[], name: string): unknown {
  return facts.find((fact) => fact.name === name)?.default;
}
