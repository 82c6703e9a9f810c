import { type ChangeEvent, useRef, useState } from "react";
import { Button } from "react-bootstrap";
import { askKitFile } from "../../questions/kit";
import type { Kit } from "../../state/kit";
import { faultText } from "../../ui/faultText";
import { saveAs } from "../../ui/saveAs";
import { say } from "../../ui/say";
import { bagWords } from "../../words/bag";
import { FileDialog } from "./FileDialog";

const MOST_BYTES = 400_000;

/** The bag as a kit file, out and in. */
export function BagFiles({ kit }: { kit: Kit }) {
  const [file, setFile] = useState<{ name: string; text: string } | null>(null);
  const picker = useRef<HTMLInputElement>(null);
  const save = async () => {
    try {
      saveAs("jackstaff-kit.json", new Blob([await askKitFile(kit.items)], { type: "application/json" }));
    } catch (error) {
      say({ text: faultText(error) });
    }
  };
  const readFile = async (event: ChangeEvent<HTMLInputElement>) => {
    const picked = event.target.files?.[0];
    event.target.value = "";
    if (!picked) return;
    if (picked.size > MOST_BYTES) say({ text: bagWords.file.tooLarge });
    else setFile({ name: picked.name, text: await picked.text() });
  };
  return (
    <span className="bag-files">
      <Button variant="quiet" onClick={() => void save()}>
        {bagWords.file.out}
      </Button>
      <Button variant="quiet" onClick={() => picker.current?.click()}>
        {bagWords.file.in}
      </Button>
      <input
        ref={picker}
        type="file"
        accept=".json,application/json"
        hidden
        aria-label={bagWords.file.in}
        onChange={(event) => void readFile(event)}
      />
      {file && <FileDialog file={file} kit={kit} onClose={() => setFile(null)} />}
    </span>
  );
}
