import { useState } from "react";
import { Button } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { useKitFile } from "../../questions/kit";
import { takeBack } from "../../state/amend";
import { draftOf, forgetItem, keepItems, type Kit } from "../../state/kit";
import { Fault } from "../../ui/Fault";
import { say } from "../../ui/say";
import { words } from "../../words";
import { bagWords } from "../../words/bag";

interface Props {
  file: { name: string; text: string };
  kit: Kit;
  onClose: () => void;
}

/** What a kit file would change, first; then all of it or nothing. */
export function FileDialog({ file, kit, onClose }: Props) {
  const [fault, setFault] = useState<unknown>(null);
  // As the kit stood when the file was chosen: taking it in does not ask again.
  const [held] = useState(kit.items);
  const read = useKitFile(file.text, held);
  const found = read.answer;
  const count = (change: string) => found?.changes.filter((entry) => entry.change === change).length ?? 0;
  const [fresh, changed] = [count("new"), count("changed")];
  const take = async () => {
    if (!found) return;
    const taken = found.kit.items.map(draftOf);
    const changes = taken.flatMap((after) => {
      const before = kit.items.find((item) => item.id === after.id);
      return before ? [{ before: draftOf(before), after }] : [];
    });
    const made = found.changes.filter((change) => change.change === "new").map((change) => change.id);
    try {
      await keepItems(taken);
    } catch (error) {
      setFault(error);
      return;
    }
    const undo = async () => {
      if (changes.length > 0) await takeBack(changes);
      for (const id of made) await forgetItem(id);
    };
    say({ text: bagWords.file.taken(fresh + changed), action: { label: bagWords.undo, act: () => void undo() } });
    onClose();
  };
  return (
    <Modal show onHide={onClose} centered scrollable aria-labelledby="file-title">
      <Modal.Header closeButton closeLabel={words.entry.cancel}>
        <Modal.Title id="file-title">{bagWords.file.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        <p className="quiet mb-0">{file.name}</p>
        {read.error && (
          <div>
            <p className="fault">{bagWords.file.refused}</p>
            <Fault error={read.error} again={read.again} />
          </div>
        )}
        <Fault error={fault} />
        {found && (
          <>
            <p className="mb-0">
              {fresh + changed === 0 ? bagWords.file.nothing : bagWords.file.counts(fresh, changed, count("same"))}
            </p>
            <ul className="plain-list">
              {found.changes
                .filter((change) => change.change !== "same")
                .map((change) => (
                  <li key={change.id}>
                    <strong>{change.name}</strong> {bagWords.file.changes[change.change]}
                    {change.facts.length > 0 && <span className="quiet">: {change.facts.join(", ")}</span>}
                  </li>
                ))}
            </ul>
            <p className="quiet mb-0">{bagWords.file.all}</p>
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {words.entry.cancel}
        </Button>
        <Button variant="signal" disabled={!found || fresh + changed === 0} onClick={() => void take()}>
          {bagWords.file.take}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
