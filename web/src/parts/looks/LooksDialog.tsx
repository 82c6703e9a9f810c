import { useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Dropdown, Modal } from "../../ui/opened";
import { KnownNumber, NumberField } from "../../ui/NumberField";
import type { Laid } from "../../state/bench";
import { typed } from "../../ui/typed";
import { words } from "../../words";
import { roughTime } from "../../words/times";
import {
  FACTS,
  KINDS,
  type Scene,
  type SceneSubject,
  toggledWant,
  wishes,
  wishFor,
  withFacts,
  withSubject,
  withoutSubject,
} from "../../state/scene";
import { type Aspect, type Looks, useDescribed, useLooks } from "../../questions/looks";
import { looksOf } from "../../state/asks";
import { forgetLook, keepLook, looks as ownLooks, type OwnLook as Own } from "../../state/looks";
import { Fault } from "../../ui/Fault";
import { Described } from "./Described";

interface Props {
  laid: Laid;
  onScene: (scene: Scene) => void;
  onClose: () => void;
}

/** What is in front of the camera and what should become of it; the windows answer at once. */
export function LooksDialog({ laid, onScene, onClose }: Props) {
  const { scene } = laid.bench;
  const own = ownLooks.use();
  const looks = useLooks(looksOf(laid, own));
  const found = looks.shown;
  const described = useDescribed();
  const set = (change: Partial<Scene>) => onScene({ ...scene, ...change });
  const setFact = (id: string, name: string, value: number | string | undefined) =>
    set({
      subjects: scene.subjects.map((subject) => {
        if (subject.id !== id) return subject;
        const facts = Object.fromEntries(Object.entries(subject.facts).filter(([key]) => key !== name));
        const told = [...(subject.told ?? []).filter((key) => key !== name), ...(value === undefined ? [] : [name])];
        return { ...subject, facts: value === undefined ? facts : { ...facts, [name]: value }, told };
      }),
    });
  return (
    <Modal show onHide={onClose} centered size="lg" scrollable aria-labelledby="looks-title">
      <Modal.Header closeButton closeLabel={words.close}>
        <Modal.Title id="looks-title">{words.looks.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="looks-dialog">
        <Verdict looks={found} error={looks.error} again={looks.again} />
        {scene.subjects.map((subject) => (
          <SubjectPart
            key={subject.id}
            subject={subject}
            scene={scene}
            own={own}
            stale={looks.stale}
            looks={found}
            aspects={described.find(({ kind }) => kind === subject.kind)?.aspects ?? []}
            onFacts={(facts, instead) => onScene(withFacts(scene, subject.id, facts, instead))}
            onFact={(name, value) => setFact(subject.id, name, value)}
            onWant={(look) => set({ wants: toggledWant(scene.wants, wishFor(scene, subject, look)) })}
            onOwn={(look) => void keepLook(look)}
            onForget={(look) => {
              void forgetLook(look);
              set({ wants: scene.wants.filter((want) => want.kind !== look.kind || want.look !== look.look) });
            }}
            onRemove={() => onScene(withoutSubject(scene, subject.id))}
          />
        ))}
        <div className="looks-foot">
          <Dropdown>
            <Dropdown.Toggle variant="quiet">{words.looks.add}</Dropdown.Toggle>
            <Dropdown.Menu>
              {KINDS.map((kind) => (
                <Dropdown.Item as="button" key={kind} onClick={() => onScene(withSubject(scene, kind))}>
                  {words.looks.kinds[kind]}
                </Dropdown.Item>
              ))}
            </Dropdown.Menu>
          </Dropdown>
          <KnownNumber
            id="scene-bearing"
            label={words.looks.bearing}
            value={scene.bearingDeg}
            onValue={(value) => set({ bearingDeg: value ?? 0 })}
          />
          <KnownNumber
            id="scene-elevation"
            label={words.looks.elevation}
            value={scene.elevationDeg}
            onValue={(value) => set({ elevationDeg: value ?? 0, toldElevation: value !== undefined })}
          />
        </div>
        <ul className="advice">
          {found?.advice.map((remark) => (
            <li key={remark.code + remark.text} className={`advice-${remark.severity}`}>
              {remark.text}
            </li>
          ))}
        </ul>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="signal" onClick={onClose}>
          {words.close}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

function Verdict({ looks, error, again }: { looks: Looks | undefined; error: Error | null; again: () => void }) {
  if (error) return <Fault error={error} again={again} />;
  const aim = looks?.aim;
  const conflict = looks?.conflict;
  return (
    <div className="looks-verdict" aria-live="polite">
      {aim && <p className="extra-answer">{words.looks.aim(span(aim.from_seconds, aim.to_seconds))}</p>}
      {conflict && <p className="extra-answer">{conflict.text}</p>}
      {conflict?.frames.map((frame) => (
        <p key={frame.kinds.join()}>
          {words.looks.frame(
            frame.kinds
              .map((kind) => words.looks.kinds[kind as keyof typeof words.looks.kinds].toLowerCase())
              .join(", "),
            span(frame.from_seconds, frame.to_seconds),
          )}
        </p>
      ))}
      {!aim && !conflict && <p className="quiet">{words.looks.pick}</p>}
    </div>
  );
}

interface PartProps {
  subject: SceneSubject;
  scene: Scene;
  own: readonly Own[];
  looks: Looks | undefined;
  /** The windows are of what was asked before: they are looked at, not taken. */
  stale: boolean;
  /** The words for what one sees of it. */
  aspects: Aspect[];
  onFacts: (facts: SceneSubject["facts"], instead: string[]) => void;
  onFact: (name: string, value: number | string | undefined) => void;
  onWant: (look: string) => void;
  onOwn: (own: Own) => void;
  onForget: (own: Own) => void;
  onRemove: () => void;
}

function SubjectPart(props: PartProps) {
  const { subject, scene, own, looks, stale, aspects, onFacts, onFact, onWant, onOwn, onForget, onRemove } = props;
  // What words set stands in the fields of numbers at once; what is being typed there stays as it is typed.
  const [announced, setAnnounced] = useState(0);
  const name = words.looks.kinds[subject.kind];
  const windows = (looks?.windows ?? []).filter((window) => window.id === subject.id);
  const status = windows[0]?.status;
  const wanted = scene.wants.find((want) => wishes(want, subject))?.look;
  return (
    <section className="looks-subject" aria-label={name}>
      <header className="heading-line">
        <h3>
          {name} {status && <span className="quiet">{words.looks.status[status]}</span>}
        </h3>
        <Button variant="quiet" size="sm" onClick={onRemove} aria-label={`${words.looks.remove}: ${name}`}>
          {words.looks.remove}
        </Button>
      </header>
      <Described
        subject={subject}
        aspects={aspects}
        onFacts={(facts, instead) => {
          setAnnounced(announced + 1);
          onFacts(facts, instead);
        }}
      />
      {subject.kind === "sea" && (
        <Tapped
          onPeriod={(seconds) => {
            setAnnounced(announced + 1);
            onFact("period_s", seconds);
          }}
        />
      )}
      <details className="looks-numbers">
        <summary>{words.looks.numbers}</summary>
        <div className="looks-facts">
          {FACTS[subject.kind].map((fact) => (
            <FactInput
              key={`${fact}-${announced}`}
              id={`${subject.id}-${fact}`}
              fact={fact}
              subject={subject}
              onFact={onFact}
            />
          ))}
        </div>
      </details>
      <div className="looks-picks" data-stale={stale || undefined} role="group" aria-label={words.looks.wish(name)}>
        {windows.map((window) => (
          <button
            key={window.look}
            type="button"
            className="look-pick"
            aria-pressed={wanted === window.look}
            disabled={window.from_seconds == null || stale}
            onClick={() => onWant(window.look)}
          >
            <strong>{window.look}</strong>
            <span>
              {window.from_seconds == null ? words.looks.never : span(window.from_seconds, window.to_seconds)}
            </span>
          </button>
        ))}
        <OwnLook kind={subject.kind} onOwn={onOwn} />
        {own
          .filter((look) => look.kind === subject.kind)
          .map((look) => (
            <Button key={look.look} variant="quiet" onClick={() => onForget(look)}>
              {words.looks.own.forget(look.look)}
            </Button>
          ))}
      </div>
    </section>
  );
}

function FactInput(props: { id: string; fact: string; subject: SceneSubject; onFact: PartProps["onFact"] }) {
  const { id, fact, subject, onFact } = props;
  const value = subject.facts[fact];
  return (
    <KnownNumber
      id={id}
      label={words.looks.facts[fact as keyof typeof words.looks.facts]}
      value={typeof value === "number" ? value : undefined}
      onValue={(given) => onFact(fact, given)}
    />
  );
}

/** The wave time by tapping as crests pass. */
function Tapped({ onPeriod }: { onPeriod: (seconds: number) => void }) {
  const taps = useRef<number[]>([]);
  const [count, setCount] = useState(0);
  const tap = () => {
    const now = performance.now() / 1000;
    const last = taps.current.at(-1);
    taps.current = last !== undefined && now - last < 30 ? [...taps.current, now] : [now];
    setCount(taps.current.length);
    const first = taps.current[0];
    if (taps.current.length >= 3 && first !== undefined) {
      onPeriod(Math.round(((now - first) / (taps.current.length - 1)) * 10) / 10);
    }
  };
  return (
    <Button variant="quiet" onClick={tap}>
      {count < 2 ? words.looks.tap : words.looks.tapped(count)}
    </Button>
  );
}

/** A look of one's own: its name and the stretch of this kind's measure. */
function OwnLook({ kind, onOwn }: { kind: SceneSubject["kind"]; onOwn: PartProps["onOwn"] }) {
  const [open, setOpen] = useState(false);
  const [look, setLook] = useState("");
  const [low, setLow] = useState("");
  const [high, setHigh] = useState("");
  const [from, to] = [typed(low), typed(high)];
  const scale = words.looks.measures[kind].startsWith("%") ? 0.01 : 1;
  const sound = look.trim() !== "" && from !== undefined && from >= 0 && (to === undefined || to > from);
  if (!open) {
    return (
      <button type="button" className="look-pick look-own" onClick={() => setOpen(true)}>
        {words.looks.own.add}
      </button>
    );
  }
  return (
    <div className="look-own-form">
      <Form.Group controlId={`own-${kind}`}>
        <Form.Label>{words.looks.own.name}</Form.Label>
        <Form.Control
          value={look}
          maxLength={24}
          autoComplete="off"
          onChange={(event) => setLook(event.target.value)}
        />
      </Form.Group>
      <NumberField
        id={`own-low-${kind}`}
        label={words.looks.own.from(words.looks.measures[kind])}
        value={low}
        onChange={setLow}
      />
      <NumberField id={`own-high-${kind}`} label={words.looks.own.to} value={high} onChange={setHigh} />
      <Button
        variant="quiet"
        disabled={!sound}
        onClick={() => {
          if (from === undefined) return;
          onOwn({ kind, look: look.trim(), low: from * scale, high: to === undefined ? null : to * scale });
          setOpen(false);
        }}
      >
        {words.looks.own.keep}
      </Button>
    </div>
  );
}

function span(from: number, to: number | null | undefined): string {
  if (to == null) return words.looks.over(roughTime(from));
  return from <= 0 ? words.looks.upTo(roughTime(to)) : words.looks.fromTo(roughTime(from), roughTime(to));
}
