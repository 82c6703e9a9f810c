import { askArchive, askOwnLog, askParts } from "../questions/logFiles";
import { saveAs } from "../ui/saveAs";

export type Part = (part: number, of: number) => void;

async function inParts(stem: string, ending: string, ask: (part: number) => Promise<Blob>, onPart: Part) {
  const parts = await askParts();
  for (let part = 1; part <= parts; part += 1) {
    if (parts > 1) onPart(part, parts);
    saveAs(parts === 1 ? `${stem}.${ending}` : `${stem}-${part}-of-${parts}.${ending}`, await ask(part));
  }
}

/** Save everything of the account, in as many files as its log takes; each comes back alone. */
export function saveEverything(onPart: Part): Promise<void> {
  return inParts("jackstaff-everything", "zip", askArchive, onPart);
}

/** Save the account's log, in as many files as it takes. */
export function saveLog(as: "json" | "csv", onPart: Part): Promise<void> {
  const type = as === "csv" ? "text/csv" : "application/json";
  return inParts("jackstaff-log", as, async (part) => new Blob([await askOwnLog(as, part)], { type }), onPart);
}
