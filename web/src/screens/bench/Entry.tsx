import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { Refused } from "../../api/client";
import { type Ladders, useExposures, useReadout } from "../../questions/bench";
import { exposureOf, holdTime } from "../../state/asks";
import { type Bench, type Laid, settingsOf } from "../../state/bench";
import { Fault } from "../../ui/Fault";
import { useEnter } from "../../ui/useEnter";
import { words } from "../../words";
import { markText, meaningText, plannedTime } from "../../words/times";
import { around } from "./stepping";
import "./entry.css";

export type Field = "shutter" | "aperture" | "iso" | "ev" | "shotAperture" | "shotIso" | "time";

interface Props {
  field: Field;
  laid: Laid;
  ladders: Ladders | undefined;
  onTake: (change: Partial<Bench>) => void;
  /** Another value of the same reading. */
  onField: (field: Field) => void;
  onClose: () => void;
}

/** The three values of a camera's reading. */
const READING = ["shutter", "aperture", "iso"] as const;

interface Candidate {
  text: string;
  change: Partial<Bench>;
}

const KIND = {
  shutter: "shutter",
  aperture: "aperture",
  iso: "iso",
  ev: "ev",
  shotAperture: "aperture",
  shotIso: "iso",
  time: "time",
} as const;

/** Every sign the hints show. */
const PAD = ["7", "8", "9", "4", "5", "6", "1", "2", "3", ".", "0", "1/", '"', "min", "s"];
const EACH_SIDE = 3;

/**
 * Typing one value. Whatever can be read more than one way is shown with what each meaning gives;
 * nothing is taken until it has one meaning.
 */
export function Entry({ field, laid, ladders, onTake, onField, onClose }: Props) {
  const [text, setText] = useState("");
  const kind = KIND[field];
  const timed = kind === "shutter" || kind === "time";
  const near = neighbours(field, laid, ladders);
  const { candidates, problem, trouble } = useCandidates(field, text.trim(), laid);
  const outcomes = useExposures(candidates.map((candidate) => exposureOf(laid, candidate.change)));
  const refused = outcomes.map((outcome) => outcome.error).find((error) => error instanceof Refused);
  const silent = trouble ?? outcomes.find((outcome) => outcome.error && !(outcome.error instanceof Refused));
  const refusal = problem ?? refused?.message;
  const only = candidates.length === 1 && outcomes[0]?.answer ? candidates[0] : undefined;

  const take = () => only && onTake(only.change);
  const onEnter = useEnter(text, only !== undefined, take);
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    take();
  };

  return (
    <Modal show onHide={onClose} centered aria-labelledby="entry-title" className="entry">
      <Form onSubmit={submit}>
        <Modal.Header closeButton closeLabel={words.entry.cancel}>
          <Modal.Title id="entry-title">{words.entry.title[kind]}</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {READING.some((each) => each === field) && (
            <div role="group" aria-label={words.entry.reading} className="entry-reading">
              {READING.map((each) => (
                <Button
                  key={each}
                  variant="segment"
                  active={each === field}
                  aria-pressed={each === field}
                  onClick={() => onField(each)}
                >
                  {each === "aperture"
                    ? `f/${laid.bench.aperture}`
                    : each === "iso"
                      ? `ISO ${laid.bench.iso}`
                      : laid.bench.shutter}
                </Button>
              ))}
            </div>
          )}
          <Form.Group controlId="entry-text">
            <Form.Label>{words.entry.hint[kind]}</Form.Label>
            <Form.Control
              // The field is what this dialog is for.
              // eslint-disable-next-line jsx-a11y/no-autofocus
              autoFocus
              autoComplete="off"
              inputMode={window.matchMedia("(pointer: coarse)").matches ? "none" : "text"}
              value={text}
              onChange={(event) => setText(event.target.value)}
              onKeyDown={onEnter}
              isInvalid={Boolean(refusal)}
              aria-describedby="entry-said"
            />
          </Form.Group>
          <div id="entry-said" aria-live="polite" className="entry-said">
            {refusal && <p className="fault">{refusal}</p>}
            {silent && <Fault error={silent.error} again={silent.again} />}
            {candidates.length > 1 && <p className="mb-2">{words.entry.which}</p>}
            {!problem &&
              candidates.map((candidate, place) => {
                const outcome = outcomes[place]?.answer;
                return outcome ? (
                  <Button
                    key={candidate.text}
                    variant="quiet"
                    className="entry-choice"
                    onClick={() => onTake(candidate.change)}
                  >
                    <strong>{candidate.text}</strong>{" "}
                    {kind !== "time" && <span>{words.entry.gives(plannedTime(outcome))}</span>}
                  </Button>
                ) : null;
              })}
          </div>
          {near.length > 0 && (
            <div className="neighbours" role="group" aria-label={words.entry.near}>
              {near.map((candidate) => (
                <Button
                  key={candidate.text}
                  variant="quiet"
                  aria-pressed={candidate.stands}
                  onClick={() => onTake(candidate.change)}
                >
                  {candidate.text}
                </Button>
              ))}
            </div>
          )}
          <div className="keypad">
            {PAD.filter((key) => timed || /^[\d.]$/.test(key)).map((key) => (
              <Button key={key} variant="quiet" onClick={() => setText(text + key)}>
                {key}
              </Button>
            ))}
            <Button variant="quiet" onClick={() => setText(text.slice(0, -1))}>
              {words.entry.erase}
            </Button>
          </div>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            {words.entry.cancel}
          </Button>
          <Button variant="signal" type="submit" disabled={!only}>
            {words.entry.take}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}

/** The dial's marks either side of what stands there, each one tap away. */
function neighbours(field: Field, laid: Laid, ladders: Ladders | undefined): (Candidate & { stands: boolean })[] {
  if (!ladders || field === "ev" || field === "time") return [];
  const shot = settingsOf(laid);
  const { bench } = laid;
  const stood = {
    shutter: bench.shutter,
    aperture: bench.aperture,
    iso: bench.iso,
    shotAperture: shot.aperture,
    shotIso: shot.iso,
  }[field];
  const kind = KIND[field];
  return around(ladders[kind], stood, EACH_SIDE).map((label) => {
    const text = kind === "shutter" ? markText(label) : kind === "aperture" ? `f/${label}` : label;
    const change = kind === "shutter" ? { shutter: text, meter: "camera" as const } : { [field]: label };
    return { text, change, stands: text === stood || label === stood };
  });
}

/** The meanings of what is typed: a shutter may have two, the rest have one. */
function useCandidates(
  field: Field,
  text: string,
  laid: Laid,
): { candidates: Candidate[]; problem?: string; trouble?: { error: Error | null; again: () => void } } {
  const timed = field === "shutter" || field === "time";
  const readout = useReadout(timed && text !== "" ? { text, step: laid.step, dial_limit: laid.dialLimit } : null);
  if (text === "") return { candidates: [] };
  switch (field) {
    case "shutter":
    case "time":
      if (readout.error instanceof Refused) return { candidates: [], problem: readout.error.message };
      if (readout.error) return { candidates: [], trouble: readout };
      return {
        candidates: (readout.answer?.readings ?? []).map((reading) => {
          const meaning = meaningText(reading.mark, reading.seconds);
          return field === "time"
            ? { text: meaning, change: holdTime(reading.seconds) }
            : { text: meaning, change: { shutter: meaning, meter: "camera" } };
        }),
      };
    case "ev": {
      const ev100 = Number(text.replace(",", ".").replace("−", "-"));
      if (Number.isNaN(ev100)) return { candidates: [], problem: words.entry.hint.ev };
      return { candidates: [{ text, change: { ev100, meter: "hand" } }] };
    }
    default: {
      const bare = text.toLowerCase().replace(/^(f\s*\/?|iso)\s*/, "");
      return {
        candidates: [
          { text: field.toLowerCase().includes("aperture") ? `f/${bare}` : bare, change: { [field]: bare } },
        ],
      };
    }
  }
}
