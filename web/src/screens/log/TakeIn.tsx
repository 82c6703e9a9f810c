import { useState } from "react";
import { Button } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { askTakeIn, useTakeIn } from "../../questions/logFiles";
import { exchange } from "../../state/outbox";
import { Fault } from "../../ui/Fault";
import { say as toast } from "../../ui/say";
import { words } from "../../words";
import { logWords } from "../../words/log";
import { instantText } from "./frameText";

interface Props {
  sort: "log" | "archive";
  file: File;
  onClose: () => void;
}

const say = logWords.files;

/** What a file would do, first; then it is taken in. */
export function TakeIn({ sort, file, onClose }: Props) {
  const [fault, setFault] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const read = useTakeIn(sort, file);
  const take = async () => {
    setBusy(true);
    try {
      await askTakeIn(sort, file, true);
    } catch (error) {
      setFault(error);
      setBusy(false);
      return;
    }
    exchange();
    toast({ text: say.taken });
    onClose();
  };
  const { frames, beside } = read.answer ?? { frames: null, beside: null };
  const nothing = frames !== null && beside === null && frames.new + frames.changed === 0;
  return (
    <Modal show onHide={onClose} centered scrollable aria-labelledby="take-title">
      <Modal.Header closeButton closeLabel={words.entry.cancel}>
        <Modal.Title id="take-title">{say.title_}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        <p className="quiet mb-0">{file.name}</p>
        {read.waiting && <p className="mb-0">{logWords.picture.busy}</p>}
        <Fault error={fault ?? read.error} />
        {frames && (
          <>
            <p className="mb-0">{nothing ? say.nothing : say.counts(frames.new, frames.changed, frames.same)}</p>
            {beside && (
              <p className="mb-0">{say.holds(beside.things, beside.outings, beside.looks, beside.pictures)}</p>
            )}
            {beside !== null && beside.aside > 0 && <p className="mb-0">{say.aside(beside.aside)}</p>}
            <ul className="plain-list">
              {frames.frames.map((frame) => (
                <li key={frame.id}>
                  {instantText(frame.opened_at, frame.zone)} {frame.what}{" "}
                  <span className="quiet">({say.changes[frame.change]})</span>
                </li>
              ))}
              {beside?.beside.map((each, place) => (
                <li key={`${each.sort} ${place}`}>
                  {each.name} <span className="quiet">({say.besideChanges[each.change]})</span>
                </li>
              ))}
            </ul>
            <p className="quiet mb-0">{say.all_}</p>
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {words.entry.cancel}
        </Button>
        <Button variant="signal" disabled={!frames || nothing || busy} onClick={() => void take()}>
          {say.take}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
