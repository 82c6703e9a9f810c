import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import type { Schemas } from "../../api/client";
import { useDensity } from "../../questions/bench";
import { itemsOf, POLARISER_STOPS } from "../../state/bag";
import { keepItems, useKit } from "../../state/kit";
import { Fault } from "../../ui/Fault";
import { Choice } from "../../ui/fields";
import { useEnter } from "../../ui/useEnter";
import { useOnce } from "../../ui/useOnce";
import { words } from "../../words";
import { dialogWords } from "../../words/dialogs";

type Strength = Schemas["LabelStrengthAnswer"];

interface Props {
  /** It is in the bag; `on` where somebody wants it on the lens as well. */
  onAdded: (id: string, on: boolean) => void;
  onClose: () => void;
}

/** A filter by what is engraved on it, in whichever notation; what the label leaves open is asked. */
export function AddGlass({ onAdded, onClose }: Props) {
  const [label, setLabel] = useState("");
  const [name, setName] = useState("");
  const [offset, setOffset] = useState("");
  const [sd, setSd] = useState("0.3");
  const [chosen, setChosen] = useState<number | null>(null);
  const [edge, setEdge] = useState<string | null>(null);
  const [fitted, setFitted] = useState<string | null>(null);
  const kit = useKit();
  const [fault, setFault] = useState<unknown>(null);
  const read = useDensity(label.trim());
  const readings = label.trim() === "" ? [] : (read.answer?.readings ?? []);
  const strength = readings.length === 1 ? readings[0] : chosen === null ? undefined : readings[chosen];
  const ranged = strength?.stops_max != null;
  const kind = read.answer?.kind ?? (ranged ? "variable" : "solid");
  const transition = read.answer?.transition ?? edge;
  // How the filters before went on is how this one does, until somebody says otherwise.
  const mount = read.answer?.mount ?? fitted ?? itemsOf(kit.items, "glass").at(-1)?.facts.mount ?? "thread";
  const stops = strength?.stops ?? (kind === "polariser" ? POLARISER_STOPS : undefined);
  const measured = offset.trim() === "" ? null : Number(offset.replace(",", ".").replace("−", "-"));
  const asksEdge = kind === "graduated" && read.answer?.transition == null;
  const sound =
    label.trim() !== "" &&
    stops !== undefined &&
    !(asksEdge && transition === null) &&
    !Number.isNaN(measured ?? 0) &&
    !(Number(sd) < 0);

  const keep = useOnce(async (on: boolean) => {
    if (!sound) return;
    const id = crypto.randomUUID();
    const facts = {
      kind,
      label: label.trim(),
      stops,
      mount,
      ...(ranged && { stops_max: strength.stops_max }),
      ...(kind === "graduated" && { transition }),
      ...(measured !== null && { offset: measured, give_or_take: Number(sd), evidence: "typed" }),
    };
    const draft = { id, sort: "glass" as const, name: name.trim() || label.trim(), note: "", retired: false, facts };
    await keepItems([draft]).then(
      () => onAdded(id, on),
      (error: unknown) => setFault(error),
    );
  });
  const onEnter = useEnter(label, sound, () => void keep(false));
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    void keep(false);
  };

  return (
    <Modal show onHide={onClose} centered aria-labelledby="add-glass-title">
      <Form onSubmit={submit}>
        <Modal.Header closeButton closeLabel={words.entry.cancel}>
          <Modal.Title id="add-glass-title">{dialogWords.addGlass.title}</Modal.Title>
        </Modal.Header>
        <Modal.Body className="stacked">
          <Form.Group controlId="glass-label">
            <Form.Label>{dialogWords.addGlass.label}</Form.Label>
            <Form.Control
              // The field is what this dialog is for.
              // eslint-disable-next-line jsx-a11y/no-autofocus
              autoFocus
              autoComplete="off"
              maxLength={60}
              placeholder={dialogWords.addGlass.hint}
              value={label}
              onChange={(event) => {
                setLabel(event.target.value);
                setChosen(null);
              }}
              onKeyDown={onEnter}
              aria-describedby="glass-said"
            />
          </Form.Group>
          <div id="glass-said" aria-live="polite">
            <Fault error={read.error} again={read.again} />
            {readings.length > 1 && (
              <p className="mb-2">
                {read.answer?.conflict_stops
                  ? dialogWords.addGlass.conflict(read.answer.conflict_stops.toFixed(1))
                  : dialogWords.addGlass.which}
              </p>
            )}
            {readings.map((reading, place) => (
              <Form.Check
                key={reading.notation + String(reading.stops)}
                type="radio"
                name="glass-reading"
                id={`glass-reading-${place}`}
                className={readings.length === 1 ? "d-none" : "choice"}
                label={echo(reading)}
                checked={chosen === place}
                onChange={() => setChosen(place)}
              />
            ))}
            {readings.length === 1 && strength && <p className="quiet">{echo(strength)}</p>}
            {read.answer && label.trim() !== "" && (
              <p className="quiet">
                {dialogWords.addGlass.kinds[kind]}
                {kind === "polariser" && strength === undefined && ` ${dialogWords.addGlass.polariser}`}
              </p>
            )}
            <Fault error={fault} />
          </div>
          {asksEdge && (
            <Choice
              name="glass-edge"
              label={dialogWords.addGlass.edge}
              value={transition}
              choices={Object.entries(dialogWords.addGlass.edges)}
              onValue={setEdge}
              wide
            />
          )}
          {read.answer?.mount == null && (
            <Choice
              name="glass-mount"
              label={dialogWords.addGlass.mount}
              value={mount}
              choices={Object.entries(dialogWords.addGlass.mounts)}
              onValue={setFitted}
              wide
            />
          )}
          <Form.Group controlId="glass-name">
            <Form.Label>{dialogWords.addGlass.name}</Form.Label>
            <Form.Control
              maxLength={40}
              autoComplete="off"
              placeholder={label.trim()}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </Form.Group>
          <div className="side-by-side">
            <Form.Group controlId="glass-offset">
              <Form.Label>{dialogWords.addGlass.offset}</Form.Label>
              <Form.Control
                autoComplete="off"
                inputMode="decimal"
                value={offset}
                onChange={(event) => setOffset(event.target.value)}
                isInvalid={Number.isNaN(measured ?? 0)}
              />
            </Form.Group>
            <Form.Group controlId="glass-sd">
              <Form.Label>{dialogWords.addGlass.sd}</Form.Label>
              <Form.Control inputMode="decimal" value={sd} onChange={(event) => setSd(event.target.value)} />
            </Form.Group>
          </div>
          <p className="quiet mb-0">{dialogWords.addGlass.offsetHint}</p>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            {words.entry.cancel}
          </Button>
          <Button variant="quiet" disabled={!sound} onClick={() => void keep(true)}>
            {dialogWords.addGlass.putOn}
          </Button>
          <Button variant="signal" type="submit" disabled={!sound}>
            {dialogWords.addGlass.put}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}

function echo(reading: Strength): string {
  const both = (low: number, high: number | null | undefined, digits: number) =>
    high == null ? short(low, digits) : `${short(low, digits)}–${short(high, digits)}`;
  return dialogWords.addGlass.echo(
    both(reading.stops, reading.stops_max, 3),
    both(reading.density, reading.density_max, 3),
    both(reading.factor, reading.factor_max, 4),
  );
}

function short(value: number, digits: number): string {
  return String(value >= 1000 ? Math.round(value) : Number(value.toPrecision(digits)));
}
