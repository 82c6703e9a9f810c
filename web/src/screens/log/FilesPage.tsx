import { useMutation } from "@tanstack/react-query";
import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { askBeforeAfter, askLogFile, askLogSchema } from "../../questions/logFiles";
import { finishedFrames, useFinished } from "../../state/frames";
import { saveEverything, saveLog } from "../../state/takeOut";
import { saveAs } from "../../ui/saveAs";
import { useSession } from "../../state/session";
import { Fault } from "../../ui/Fault";
import { logWords } from "../../words/log";
import { PictureInput } from "../../parts/pictures/PictureInput";
import { TakeIn } from "./TakeIn";

const say = logWords.files;
/** So many frames go out with one question. */
const MOST_SENT = 2000;

/** Everything in and out as open files. */
export function FilesPage() {
  const signedIn = useSession().signedIn;
  const own = useFinished();
  const [fault, setFault] = useState<unknown>(null);
  const [part, setPart] = useState<[number, number] | null>(null);
  const onProgress = (number: number, of: number) => setPart([number, of]);
  const tried = (work: () => Promise<void>) => {
    setFault(null);
    work()
      .catch(setFault)
      .finally(() => setPart(null));
  };
  const [file, setFile] = useState<{ sort: "log" | "archive"; file: File } | null>(null);
  const save = async (as: "json" | "csv") => {
    const kind = as === "csv" ? "text/csv" : "application/json";
    if (signedIn) return saveLog(as, onProgress);
    const text = await askLogFile(as, await finishedFrames(MOST_SENT));
    saveAs(`jackstaff-log.${as}`, new Blob([text], { type: kind }));
  };
  const schema = async () => {
    const text = JSON.stringify(await askLogSchema(), null, 2);
    saveAs("jackstaff-log.schema.json", new Blob([text], { type: "application/json" }));
  };
  const picker = (sort: "log" | "archive", label: string, accept: string) => (
    <Form.Label className={`btn btn-quiet mb-0${signedIn ? "" : " disabled"}`}>
      {label}
      <input
        type="file"
        accept={accept}
        className="visually-hidden"
        data-testid={`files-${sort}`}
        disabled={!signedIn}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) setFile({ sort, file: chosen });
          event.target.value = "";
        }}
      />
    </Form.Label>
  );
  const none = !signedIn && own.length === 0;
  return (
    <div className="files">
      <h1>{say.title}</h1>
      <Fault error={fault} />
      <p role="status" className="mb-0">
        {part && say.part(...part)}
      </p>
      <div className="files-parts">
        <section aria-labelledby="files-log">
          <h2 id="files-log">{say.log}</h2>
          <p className="quiet">{say.logHint}</p>
          <div className="frame-actions">
            <Button variant="quiet" onClick={() => tried(() => save("json"))} disabled={none}>
              {say.json}
            </Button>
            <Button variant="quiet" onClick={() => tried(() => save("csv"))} disabled={none}>
              {say.csv}
            </Button>
            {picker("log", say.read, ".json,.csv,.xmp")}
            <Button variant="quiet" onClick={() => tried(schema)}>
              {say.schema}
            </Button>
          </div>
        </section>
        <section aria-labelledby="files-all">
          <h2 id="files-all">{say.all}</h2>
          <p className="quiet">{say.allHint}</p>
          <div className="frame-actions">
            <Button variant="quiet" onClick={() => tried(() => saveEverything(onProgress))} disabled={!signedIn}>
              {say.archive}
            </Button>
            {picker("archive", say.back, ".zip")}
          </div>
          {!signedIn && <p className="quiet">{logWords.signInFirst}</p>}
        </section>
        <BeforeAfter />
      </div>
      {file && <TakeIn sort={file.sort} file={file.file} onClose={() => setFile(null)} />}
    </div>
  );
}

/** Two JPEGs side by side with their settings, as one PNG. */
function BeforeAfter() {
  const [files, setFiles] = useState<Record<string, File | undefined>>({});
  const [lines, setLines] = useState({ before_text: "", after_text: "", foot: "" });
  const card = useMutation({
    mutationFn: () => askBeforeAfter({ ...files, before_title: say.before, after_title: say.after, ...lines }),
    onSuccess: (blob) => saveAs("jackstaff-before-after.png", blob),
  });
  const line = (name: keyof typeof lines, label: string) => (
    <Form.Group controlId={`card-${name}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        maxLength={90}
        value={lines[name]}
        onChange={(event) => setLines({ ...lines, [name]: event.target.value })}
      />
    </Form.Group>
  );
  return (
    <section aria-labelledby="files-shared" className="files-shared">
      <h2 id="files-shared">{say.shared}</h2>
      <p className="quiet">{say.sharedHint}</p>
      <Form
        className="stacked"
        onSubmit={(event: SubmitEvent) => {
          event.preventDefault();
          card.mutate();
        }}
      >
        <div className="files-two">
          {(["before", "after"] as const).map((name) => (
            <PictureInput
              key={name}
              id={`shared-${name}`}
              label={say[name]}
              onChange={(chosen) => setFiles({ ...files, [name]: chosen[0] })}
            />
          ))}
          {line("before_text", say.beforeText)}
          {line("after_text", say.afterText)}
        </div>
        {line("foot", say.foot)}
        <Button type="submit" variant="quiet" disabled={!files["before"] || !files["after"] || card.isPending}>
          {card.isPending ? logWords.picture.busy : say.make}
        </Button>
        <Fault error={card.error} />
      </Form>
    </section>
  );
}
