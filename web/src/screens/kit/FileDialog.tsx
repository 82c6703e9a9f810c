import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button, Modal } from "react-bootstrap";
import { answer, api, Refused } from "../../api/client";
import { Fault } from "../../ui/Fault";
import { say } from "../../ui/say";
import { words } from "../../words";
import { draftOf, type Kit } from "../../state/kit";

interface Props {
  file: { name: string; text: string };
  kit: Kit;
  onClose: () => void;
}

/** What a kit file would change, first; then all of it or nothing. */
export function FileDialog({ file, kit, onClose }: Props) {
  const [fault, setFault] = useState<string | null>(null);
  const read = useQuery({
    queryKey: ["kit-file", file.text, kit.items],
    queryFn: () => answer(api.POST("/api/kit/read", { body: { text: file.text, items: kit.items.map(draftOf) } })),
    retry: false,
    gcTime: 0,
  });
  const count = (change: string) => read.data?.changes.filter((one) => one.change === change).length ?? 0;
  const [fresh, changed] = [count("new"), count("changed")];
  const take = async () => {
    if (!read.data) return;
    const before = kit.items.filter((item) => read.data.changes.some((one) => one.id === item.id)).map(draftOf);
    const made = read.data.changes.filter((one) => one.change === "new").map((one) => one.id);
    try {
      await kit.keep(read.data.kit.items.map(draftOf));
    } catch (error) {
      setFault(error instanceof Refused ? error.message : words.trouble.unreachable);
      return;
    }
    const undo = async () => {
      if (before.length > 0) await kit.keep(before);
      for (const id of made) await kit.forget(id);
    };
    say({ text: words.kit.file.taken(fresh + changed), action: { label: words.kit.undo, act: () => void undo() } });
    onClose();
  };
  return (
    <Modal show onHide={onClose} centered scrollable aria-labelledby="file-title">
      <Modal.Header closeButton closeLabel={words.entry.cancel}>
        <Modal.Title id="file-title">{words.kit.file.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        <p className="quiet mb-0">{file.name}</p>
        {read.error && (
          <div>
            <p className="fault">{words.kit.file.refused}</p>
            <Fault error={read.error} />
          </div>
        )}
        {fault && <p className="fault">{fault}</p>}
        {read.data && (
          <>
            <p className="mb-0">
              {fresh + changed === 0 ? words.kit.file.nothing : words.kit.file.counts(fresh, changed, count("same"))}
            </p>
            <ul className="plain-list">
              {read.data.changes
                .filter((one) => one.change !== "same")
                .map((one) => (
                  <li key={one.id}>
                    <strong>{one.name}</strong> {words.kit.file.changes[one.change]}
                    {one.facts.length > 0 && <span className="quiet">: {one.facts.join(", ")}</span>}
                  </li>
                ))}
            </ul>
            <p className="quiet mb-0">{words.kit.file.all}</p>
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {words.entry.cancel}
        </Button>
        <Button variant="signal" disabled={!read.data || fresh + changed === 0} onClick={() => void take()}>
          {words.kit.file.take}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
