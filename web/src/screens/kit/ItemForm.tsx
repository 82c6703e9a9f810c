import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { type Fault, Refused } from "../../api/client";
import { type Fact, useFacts } from "../../questions/kit";
import { type Draft, forgetItem, keepItems } from "../../state/kit";
import { faultText } from "../../ui/faultText";
import { say } from "../../ui/say";
import { kitWords } from "../../words/kit";
import { FactField } from "./FactField";
import { FaultText } from "./FaultText";
import { GlassHelp } from "./GlassHelp";

interface Props {
  draft: Draft;
  isNew: boolean;
  onDone: (id: string | null) => void;
  onCopy: (copy: Draft) => void;
}

/** One thing of the kit: every fact with its unit and what it is used for; the core says what is wrong. */
export function ItemForm({ draft, isNew, onDone, onCopy }: Props) {
  const [name, setName] = useState(draft.name);
  const [note, setNote] = useState(draft.note);
  const [facts, setFacts] = useState(draft.facts);
  const [faults, setFaults] = useState<Fault[]>([]);
  const described = useFacts(draft.sort);
  const valueOf = (fact: Fact) => facts[fact.name] ?? initial(fact);
  const shown = described.filter(
    (fact) =>
      !fact.only_for ||
      fact.only_for.values.includes(String(facts[fact.only_for.fact] ?? firstChoice(described, fact.only_for.fact))),
  );
  const groups = [...new Set(shown.map((fact) => fact.group))];
  const faultOf = (field: string) => faults.find((fault) => fault.field.replace("items.0.", "").startsWith(field));
  const changed = isNew || name !== draft.name || note !== draft.note || facts !== draft.facts;
  const set = (change: Record<string, unknown>) => setFacts({ ...facts, ...change });

  /** Keep one state of this thing, with the one before it to go back to. */
  const keep = async (next: Draft, said: string, before: Draft | null) => {
    try {
      await keepItems([next]);
    } catch (error) {
      setFaults(error instanceof Refused ? error.faults : []);
      say({ text: faultText(error) });
      return false;
    }
    setFaults([]);
    const undo = () => void (before ? keepItems([before]) : forgetItem(next.id)).then(() => onDone(before?.id ?? null));
    say({ text: said, action: { label: kitWords.undo, act: undo } });
    return true;
  };
  const save = async (event: SubmitEvent) => {
    event.preventDefault();
    const known = new Set(shown.map((fact) => fact.name));
    const kept = Object.fromEntries(
      Object.entries(facts).filter(([key, value]) => known.has(key) && value !== "" && value !== undefined),
    );
    const next = { ...draft, name, note, facts: kept };
    const said = isNew ? kitWords.added(name) : kitWords.saved(name);
    if (await keep(next, said, isNew ? null : draft)) onDone(draft.id);
  };
  const retire = async () => {
    const next = { ...draft, retired: !draft.retired };
    if (await keep(next, kitWords[next.retired ? "retiredNow" : "saved"](draft.name), draft)) onDone(draft.id);
  };
  const remove = async () => {
    await forgetItem(draft.id);
    say({
      text: kitWords.removed(draft.name),
      action: { label: kitWords.undo, act: () => void keepItems([draft]).then(() => onDone(draft.id)) },
    });
    onDone(null);
  };

  return (
    <Form className="item-form" onSubmit={(event) => void save(event)} noValidate>
      <Button variant="quiet" className="item-back" onClick={() => onDone(null)}>
        {kitWords.back}
      </Button>
      <header className="item-head">
        <Form.Group controlId="item-name">
          <Form.Label>
            {kitWords.sorts[draft.sort]}, {kitWords.name.toLowerCase()}
          </Form.Label>
          <Form.Control
            value={name}
            maxLength={60}
            autoComplete="off"
            isInvalid={Boolean(faultOf("name"))}
            aria-describedby={faultOf("name") ? "item-name-fault" : undefined}
            onChange={(event) => setName(event.target.value)}
          />
          <FaultText id="item-name-fault" fault={faultOf("name")} />
        </Form.Group>
      </header>
      {draft.sort === "glass" && <GlassHelp facts={facts} set={set} />}
      {groups.map((group) => (
        <fieldset key={group} className="fact-group">
          {group && <legend>{group}</legend>}
          <div className="fact-grid">
            {shown
              .filter((fact) => fact.group === group)
              .map((fact) => (
                <FactField
                  key={fact.name}
                  fact={fact}
                  value={valueOf(fact)}
                  fault={faultOf(`facts.${fact.name}`)}
                  onChange={(value) => set({ [fact.name]: value })}
                />
              ))}
          </div>
        </fieldset>
      ))}
      <Form.Group controlId="item-note">
        <Form.Label>{kitWords.note}</Form.Label>
        <Form.Control
          value={note}
          maxLength={500}
          autoComplete="off"
          onChange={(event) => setNote(event.target.value)}
        />
      </Form.Group>
      <footer className="item-actions">
        <Button variant="signal" type="submit" disabled={!changed}>
          {kitWords.save}
        </Button>
        {!isNew && (
          <>
            <Button
              variant="quiet"
              onClick={() =>
                onCopy({ ...draft, id: crypto.randomUUID(), name: kitWords.copyOf(draft.name).slice(0, 60) })
              }
            >
              {kitWords.copy}
            </Button>
            <Button variant="quiet" onClick={() => void retire()}>
              {draft.retired ? kitWords.unretire : kitWords.retire}
            </Button>
            <Button variant="quiet" onClick={() => void remove()}>
              {kitWords.forget}
            </Button>
          </>
        )}
      </footer>
    </Form>
  );
}

function initial(fact: Fact): unknown {
  return fact.default;
}

function firstChoice(facts: Fact[], name: string): unknown {
  return facts.find((fact) => fact.name === name)?.default;
}
