import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { useTogether } from "../../questions/kit";
import type { Laid } from "../../state/bench";
import { keepItems } from "../../state/kit";
import { Fault } from "../../ui/Fault";
import { KnownNumber } from "../../ui/NumberField";
import { words } from "../../words";
import { useOnce } from "../../ui/useOnce";

interface Props {
  laid: Laid;
  onNamed: (id: string, members: string[], name: string) => void;
  onClose: () => void;
}

/** Filters that stay together get one name and one strength, which may have been measured. */
export function NameStack({ laid, onNamed, onClose }: Props) {
  const say = words.nameStack;
  const members = laid.stack.flatMap((glass) => laid.items.filter((item) => item.id === glass.id));
  const together = useTogether({ glass: members.map((item) => ({ ...item.facts })) });
  const [name, setName] = useState("");
  const [measured, setMeasured] = useState<number | undefined>();
  const [sd, setSd] = useState<number | undefined>(0.2);
  const [fault, setFault] = useState<unknown>(null);
  const facts = together.answer?.facts as { stops: number; offset: number | null } | undefined;
  const keep = useOnce(async () => {
    if (!facts || name.trim() === "") return;
    const id = crypto.randomUUID();
    const ids = members.map((item) => item.id);
    const own =
      measured === undefined ? {} : { offset: measured - facts.stops, give_or_take: sd ?? null, evidence: "typed" };
    const draft = { id, sort: "glass" as const, name: name.trim(), note: "", retired: false };
    await keepItems([{ ...draft, facts: { ...facts, ...own, members: ids } }]).then(
      () => onNamed(id, ids, name.trim()),
      (error: unknown) => setFault(error),
    );
  });
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    void keep();
  };
  return (
    <Modal show onHide={onClose} centered aria-labelledby="name-stack-title">
      <Form onSubmit={submit}>
        <Modal.Header closeButton closeLabel={words.entry.cancel}>
          <Modal.Title id="name-stack-title">{say.title}</Modal.Title>
        </Modal.Header>
        <Modal.Body className="stacked">
          <p className="mb-0">{say.why(members.map((item) => item.name).join(", "))}</p>
          <Fault error={together.error ?? fault} again={together.again} />
          <Form.Group controlId="stack-name">
            <Form.Label>{say.name}</Form.Label>
            <Form.Control
              // The field is what this dialog is for.
              // eslint-disable-next-line jsx-a11y/no-autofocus
              autoFocus
              maxLength={40}
              autoComplete="off"
              placeholder={say.hint}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </Form.Group>
          <div className="side-by-side">
            <KnownNumber id="stack-measured" label={say.measured} value={measured} onValue={setMeasured} />
            <KnownNumber id="stack-sd" label={say.sd} value={sd} onValue={setSd} />
          </div>
          {facts && <p className="quiet mb-0">{say.measuredHint((facts.stops + (facts.offset ?? 0)).toFixed(1))}</p>}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            {words.entry.cancel}
          </Button>
          <Button variant="signal" type="submit" disabled={!facts || name.trim() === ""}>
            {say.keep}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
