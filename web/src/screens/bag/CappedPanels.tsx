import { useMutation } from "@tanstack/react-query";
import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import type { Schemas } from "../../api/client";
import { askLeak, askSpecks } from "../../questions/measuring";
import { amend } from "../../state/amend";
import type { ItemOf } from "../../state/kit";
import { Fault } from "../../ui/Fault";
import { bagWords } from "../../words/bag";
import { roughTime } from "../../words/times";
import { PictureInput } from "../../parts/pictures/PictureInput";

const say = bagWords.measure;

/** Hot specks of a capped frame, and from when this body needs a dark frame. */
export function SpecksPanel({ body, onDone }: { body: ItemOf<"body">; onDone: () => void }) {
  const [file, setFile] = useState<File | undefined>();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const specks = useMutation({
    mutationFn: () => askSpecks({ file, ...typed }),
  });
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    specks.mutate();
  };
  const number = (name: string, label: string) => (
    <Form.Group controlId={`specks-${name}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        inputMode="decimal"
        value={typed[name] ?? ""}
        onChange={(event) => setTyped({ ...typed, [name]: event.target.value.replace(",", ".") })}
      />
    </Form.Group>
  );
  return (
    <section aria-labelledby="specks-title">
      <Form className="stacked" onSubmit={submit}>
        <h2 id="specks-title">{say.capped}</h2>
        <p className="quiet mb-0">{say.cappedHint}</p>
        <PictureInput id="specks-file" label={say.cappedFile} onChange={(files) => setFile(files[0])} />
        <div className="pair-typed">
          {number("seconds", say.seconds)}
          {number("celsius", say.celsius)}
          {number("next_celsius", say.nextCelsius)}
        </div>
        <Button type="submit" variant="quiet" disabled={!file || specks.isPending}>
          {specks.isPending ? say.busy : say.go}
        </Button>
        <Fault error={specks.error} />
      </Form>
      {specks.data && <Counted found={specks.data} body={body} onDone={onDone} />}
    </section>
  );
}

interface CountedProps {
  found: Schemas["SpecksReadAnswer"];
  body: ItemOf<"body">;
  onDone: () => void;
}

function Counted({ found, body, onDone }: CountedProps) {
  if (found.refused)
    return (
      <p className="fault" role="alert">
        {found.refused}
      </p>
    );
  const from = found.advised_from_seconds;
  const keep = async () => {
    if (from === null) return;
    const dark_from_s = Math.min(86_400, Math.max(1, Math.round(from)));
    await amend(body, { dark_from_s }, say.keptAdvised(body.name));
    onDone();
  };
  return (
    <div className="stacked" role="status">
      <p className="mb-0">
        {found.count === 0 ? say.noSpecks : say.specks(found.count, found.per_megapixel.toPrecision(2))}{" "}
        {from !== null && say.advised(roughTime(Math.min(from, 86_400)))}
      </p>
      {from !== null && (
        <Button variant="quiet" onClick={() => void keep()}>
          {say.useAdvised}
        </Button>
      )}
    </div>
  );
}

/** Two capped frames, eyepiece covered and open: does light come in? */
export function LeakPanel() {
  const [files, setFiles] = useState<Record<string, File | undefined>>({});
  const leak = useMutation({ mutationFn: () => askLeak(files) });
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    leak.mutate();
  };
  return (
    <section aria-labelledby="leak-title">
      <Form className="stacked" onSubmit={submit}>
        <h2 id="leak-title">{say.leak}</h2>
        <p className="quiet mb-0">{say.leakHint}</p>
        {(["closed", "opened"] as const).map((name) => (
          <PictureInput
            key={name}
            id={`leak-${name}`}
            label={say[name]}
            onChange={(chosen) => setFiles({ ...files, [name]: chosen[0] })}
          />
        ))}
        <Button type="submit" variant="quiet" disabled={!files["closed"] || !files["opened"] || leak.isPending}>
          {leak.isPending ? say.busy : say.go}
        </Button>
        <Fault error={leak.error} />
      </Form>
      {leak.data && (
        <p className={leak.data.refused || leak.data.leaks ? "fault" : "mb-0"} role="status">
          {leak.data.refused ?? leak.data.text}
        </p>
      )}
    </section>
  );
}
