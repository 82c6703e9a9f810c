import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { TimeText } from "../../parts/meter/TimeText";
import { useShutterText, useWatchText } from "../../parts/meter/typedTime";
import { type Laid, settingsOf, useBench } from "../../state/bench";
import { addFrame } from "../../state/frames";
import { staying } from "../../state/session";
import { ClockField, DateField } from "../../ui/ClockField";
import { Fault } from "../../ui/Fault";
import { useOnce } from "../../ui/useOnce";
import { nowMs } from "../../ui/worldClock";
import { words } from "../../words";
import { logWords } from "../../words/log";
import { instantOf, ITS_OWN, today, wallTime } from "../../words/zone";
import { madeFrame } from "./madeFrame";

const say = logWords.add;

/** By hand: when it opened, for how long, and what was on. */
export function AddFrame({ onClose }: { onClose: () => void }) {
  const [laid] = useBench();
  if (!laid) return null;
  return <AddForm laid={laid} onClose={onClose} />;
}

function AddForm({ laid, onClose }: { laid: Laid; onClose: () => void }) {
  const settings = settingsOf(laid);
  const [date, setDate] = useState(today());
  const [clock, setClock] = useState(() => wallTime(nowMs(), ITS_OWN));
  const open = useWatchText();
  const reading = useShutterText(laid.bench.meter === "camera" ? laid.bench.shutter : "", laid.step, laid.dialLimit);
  const [facts, setFacts] = useState({ ...settings });
  const [on, setOn] = useState<string[]>(laid.bench.on ?? []);
  const [problem, setProblem] = useState<string | null>(null);
  const [fault, setFault] = useState<unknown>(null);
  const keep = useOnce(async () => {
    const here = staying();
    const openedAt = new Date(instantOf(date, clock, ITS_OWN));
    // A frame may have had no reading; one that can be read two ways is asked about first.
    const [lasted, metered] = await Promise.all([open.settled(), reading.settled()]);
    const unread = reading.text.trim() !== "" && !metered;
    if (Number.isNaN(openedAt.getTime()) || !lasted || unread) {
      setProblem(say.problem);
      return;
    }
    setProblem(null);
    try {
      const glass = laid.bag.filter((piece) => on.includes(piece.id));
      const shutter = metered?.label ?? "";
      const frame = await madeFrame({ openedAt, seconds: lasted.seconds, glass, shutter, ...facts }, laid);
      here();
      await addFrame(frame);
      onClose();
    } catch (error) {
      setFault(error);
    }
  });
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    void keep();
  };
  const field = (name: keyof typeof facts, label: string) => (
    <Form.Group controlId={`add-${name}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        value={facts[name]}
        maxLength={24}
        onChange={(event) => setFacts({ ...facts, [name]: event.target.value })}
      />
    </Form.Group>
  );
  return (
    <Modal show onHide={onClose} centered scrollable aria-labelledby="add-title">
      <Form onSubmit={submit}>
        <Modal.Header closeButton closeLabel={words.entry.cancel}>
          <Modal.Title id="add-title">{say.title}</Modal.Title>
        </Modal.Header>
        <Modal.Body className="stacked">
          <div className="pair-typed">
            <Form.Group controlId="add-opened">
              <Form.Label>{say.opened}</Form.Label>
              <DateField value={date} onValue={setDate} />
            </Form.Group>
            <Form.Group controlId="add-opened-at">
              <Form.Label>{say.openedAt}</Form.Label>
              <ClockField value={clock} onValue={setClock} />
            </Form.Group>
          </div>
          <TimeText id="add-seconds" label={say.seconds} time={open} />
          <div className="pair-typed">
            {field("aperture", logWords.picture.aperture)}
            {field("iso", logWords.picture.iso)}
          </div>
          <TimeText id="add-shutter" label={say.reading} time={reading} />
          <fieldset className="add-glass">
            <legend>{say.glass}</legend>
            {laid.bag.map((piece) => (
              <Form.Check
                key={piece.id}
                id={`add-${piece.id}`}
                label={piece.name}
                checked={on.includes(piece.id)}
                onChange={(event) =>
                  setOn(event.target.checked ? [...on, piece.id].slice(-8) : on.filter((id) => id !== piece.id))
                }
              />
            ))}
          </fieldset>
          {problem && (
            <p className="fault" role="alert">
              {problem}
            </p>
          )}
          <Fault error={fault} />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            {words.entry.cancel}
          </Button>
          <Button type="submit" variant="signal">
            {say.keep}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
