import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Button, Modal } from "react-bootstrap";
import { answer, api } from "../../api/client";
import { asForm } from "../../api/form";
import { Fault } from "../../ui/Fault";
import { say as toast } from "../../ui/say";
import { words } from "../../words";
import { whenText } from "./frameText";

interface Props {
  sort: "log" | "archive";
  file: File;
  onClose: () => void;
}

const say = words.log.files;

async function ask(sort: Props["sort"], file: File, keep: boolean) {
  if (sort === "log") {
    return { frames: await answer(api.POST("/api/log/read", asForm({ file, keep }))), beside: null };
  }
  const { frames, ...beside } = await answer(api.POST("/api/account/archive", asForm({ file, keep })));
  return { frames, beside };
}

/** What a file would do, first; then all of it or nothing. */
export function TakeIn({ sort, file, onClose }: Props) {
  const [fault, setFault] = useState<Error | null>(null);
  const [busy, setBusy] = useState(false);
  const client = useQueryClient();
  const read = useQuery({
    queryKey: ["take-in", sort, file.name, file.size, file.lastModified],
    queryFn: () => ask(sort, file, false),
    retry: false,
    gcTime: 0,
  });
  const take = async () => {
    setBusy(true);
    try {
      await ask(sort, file, true);
    } catch (error) {
      setFault(error as Error);
      setBusy(false);
      return;
    }
    await client.invalidateQueries();
    toast({ text: say.taken });
    onClose();
  };
  const { frames, beside } = read.data ?? { frames: null, beside: null };
  const nothing = frames !== null && beside === null && frames.new + frames.changed === 0;
  return (
    <Modal show onHide={onClose} centered scrollable aria-labelledby="take-title">
      <Modal.Header closeButton closeLabel={words.entry.cancel}>
        <Modal.Title id="take-title">{say.title_}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        <p className="quiet mb-0">{file.name}</p>
        {read.isPending && <p className="mb-0">{words.log.measure.busy}</p>}
        <Fault error={fault ?? read.error} />
        {frames && (
          <>
            <p className="mb-0">{nothing ? say.nothing : say.counts(frames.new, frames.changed, frames.same)}</p>
            {beside && <p className="mb-0">{say.holds(beside.things, beside.outings, beside.pictures)}</p>}
            <ul className="plain-list">
              {frames.frames.map((one) => (
                <li key={one.id}>
                  {whenText(one.opened_at)} {one.what} <span className="quiet">({say.changes[one.change]})</span>
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
