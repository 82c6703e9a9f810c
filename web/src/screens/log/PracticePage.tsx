import { type SubmitEvent, useEffect, useMemo, useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useSearchParams } from "wouter";
import { DryHistogram } from "../../parts/dryrun/DryHistogram";
import { DryPicture } from "../../parts/dryrun/DryPicture";
import { Staff } from "../../parts/staff/Staff";
import { useLearnt } from "../../questions/log";
import {
  askGrade,
  type Drill,
  type DrillQuestion,
  type Graded,
  useDrill,
  useNextDrill,
} from "../../questions/practice";
import { useKit } from "../../state/kit";
import { useOwnLog } from "../../state/ownLog";
import { boxOf, kinds, practised, type Practised, usePractised } from "../../state/practice";
import { staying } from "../../state/session";
import { Fault } from "../../ui/Fault";
import { useKeys } from "../../ui/useKeys";
import { useMeasured } from "../../ui/useMeasured";
import { practiceWords as say } from "../../words/practice";
import { instantText } from "./frameText";
import { PracticeKinds } from "./PracticeKinds";
import { solidsOf } from "./solids";
import "./practice.css";

const SEEDS = 2 ** 31;
const fresh = () => Math.floor(Math.random() * SEEDS);

/** Quick drills: one question, its answer as people say it, what it is worth, the sum on the staff. */
export function PracticePage() {
  const kit = useKit();
  const [params] = useSearchParams();
  const own = useOwnLog(kit);
  const learnt = useLearnt(own);
  const held = usePractised();
  const [turn, setTurn] = useState(() => ({
    seed: fresh(),
    now: new Date(),
    held,
    last: null as Drill["kind"] | null,
  }));
  const mistakes = useMemo(() => (learnt.shown?.statistics.mistakes ?? []).map(({ code }) => code), [learnt.shown]);
  const glass = useMemo(() => solidsOf(kit.items), [kit.items]);
  const ready = !kit.loading && (learnt.shown !== undefined || learnt.error !== null);
  // Of one turn nothing changes while it is answered.
  const [drawn, setDrawn] = useState<{ seed: number; question: DrillQuestion } | null>(null);
  const next = useNextDrill(
    ready
      ? {
          now: turn.now.toISOString(),
          seed: turn.seed,
          remembered: turn.held.map(({ kind, box, due }) => ({ kind, box, due })),
          mistakes,
          last: turn.last,
        }
      : null,
  );
  if (next.answer && drawn?.seed !== turn.seed) {
    // What a dry run found wanting comes first.
    const kind =
      turn.last === null ? (kinds().find((each) => each === params.get("kind")) ?? next.answer.kind) : next.answer.kind;
    setDrawn({ seed: turn.seed, question: { kind, seed: turn.seed, glass, mistakes } });
  }
  const question = drawn?.seed === turn.seed ? drawn.question : null;
  const drill = useDrill(question);
  return (
    <div className="practice">
      <PracticeKinds />
      <header className="heading-line">
        <h1>{say.title}</h1>
        {next.answer && <span className="quiet">{say.due(next.answer.due_count)}</span>}
      </header>
      <p className="quiet mb-0">{say.why}</p>
      <Fault error={next.error ?? drill.error} again={next.again} />
      <div className="practice-parts">
        {question && drill.answer && (
          <OneDrill
            key={turn.seed}
            question={question}
            drill={drill.answer}
            onNext={() => setTurn({ seed: fresh(), now: new Date(), held, last: question.kind })}
          />
        )}
        <Progress held={held} now={turn.now.getTime()} />
      </div>
    </div>
  );
}

interface OneProps {
  question: DrillQuestion;
  drill: Drill;
  onNext: () => void;
}

function OneDrill({ question, drill, onNext }: OneProps) {
  const [typed, setTyped] = useState("");
  const [graded, setGraded] = useState<Graded | null>(null);
  const [fault, setFault] = useState<unknown>(null);
  const field = useRef<HTMLInputElement>(null);
  const onward = useRef<HTMLButtonElement>(null);
  const done = graded !== null && graded.right !== null;
  useEffect(() => {
    if (done) onward.current?.focus();
    else field.current?.focus();
  }, [done]);
  const sending = useRef(false);
  const grade = async (typedAnswer: string) => {
    // Pressed twice it is one answer: each moves the kind to another box.
    if (sending.current) return;
    sending.current = true;
    setFault(null);
    const here = staying();
    try {
      const answered = await askGrade({ ...question, answer: typedAnswer, box: boxOf(question.kind) });
      here();
      practised(question.kind, answered, new Date());
      setGraded(answered);
      sending.current = answered.right !== null;
    } catch (error) {
      setFault(error);
      sending.current = false;
    }
  };
  useKeys(
    done ? "" : drill.choices.map((_, place) => String(place + 1)).join(","),
    (event) => void grade(event.code.slice(-1)),
    "position",
  );
  const send = (event: SubmitEvent) => {
    event.preventDefault();
    if (typed.trim() !== "" && !done) void grade(typed.trim());
  };
  return (
    <section className="drill" aria-label={say.kinds[question.kind]}>
      <p className="drill-kind">{say.kinds[question.kind]}</p>
      <p className="drill-asks" id="drill-asks">
        {drill.asks}
      </p>
      {drill.picture && (
        <div className="drill-picture">
          <DryPicture developed={drill.picture.developed} drawn={drill.picture.drawn as "mole"} name={say.pictured} />
          <DryHistogram developed={drill.picture.developed} />
        </div>
      )}
      {drill.answered === "choice" ? (
        <fieldset className="drill-choices">
          <legend className="quiet">{say.choices}</legend>
          {drill.choices.map((choice, place) => (
            <Button
              key={choice}
              variant="quiet"
              disabled={done}
              data-right={done && choice === graded.right_text ? true : undefined}
              data-picked={done && choice === graded.understood ? true : undefined}
              onClick={() => void grade(String(place + 1))}
            >
              <b>{place + 1}</b>
              <span>{choice}</span>
            </Button>
          ))}
        </fieldset>
      ) : (
        <Form onSubmit={send} className="drill-form">
          <Form.Label htmlFor="drill-said">{say.answer}</Form.Label>
          <Form.Control
            id="drill-said"
            ref={field}
            value={typed}
            maxLength={40}
            autoComplete="off"
            autoCapitalize="off"
            readOnly={done}
            aria-describedby="drill-asks drill-how"
            onChange={(event) => setTyped(event.target.value)}
          />
          {!done && (
            <Button type="submit" variant="signal" disabled={typed.trim() === ""}>
              {say.check}
            </Button>
          )}
          <Form.Text id="drill-how">{say.how[drill.answered]}</Form.Text>
        </Form>
      )}
      <Fault error={fault} />
      <div role="status" className="drill-told" data-right={graded?.right ?? undefined}>
        {graded && <p className="drill-verdict">{graded.text}</p>}
        {graded && done && <p className="mb-0">{graded.why}</p>}
      </div>
      {done && (
        <Button ref={onward} variant="signal" onClick={onNext}>
          {say.next}
        </Button>
      )}
      {done && graded.steps.length > 0 && <Sum graded={graded} drill={drill} />}
    </section>
  );
}

/** The sum that the bench would show. */
function Sum({ graded, drill }: { graded: Graded; drill: Drill }) {
  const [stage, size] = useMeasured<HTMLDivElement>();
  const first = graded.steps[0]?.seconds ?? 1;
  const stack = graded.steps.filter((step) => step.kind === "glass").map(({ name, stops }) => ({ name, stops }));
  const answer = {
    seconds: drill.right,
    set_seconds: drill.right,
    base_seconds: first,
    stops: Math.log2(drill.right / first),
    from_seconds: drill.right,
    to_seconds: drill.right,
    steps: graded.steps,
  };
  return (
    <figure className="drill-staff" aria-label={say.staff}>
      <div ref={stage}>
        {size && (
          <Staff
            answer={answer}
            stack={stack}
            settings={{ aperture: drill.set_aperture, iso: drill.set_iso }}
            dialLimit={30}
            width={size.width}
            height={330}
          />
        )}
      </div>
    </figure>
  );
}

function Progress({ held, now }: { held: readonly Practised[]; now: number }) {
  return (
    <section className="practice-progress" aria-label={say.progress}>
      <h2>{say.progress}</h2>
      <ul className="plain-list">
        {kinds().map((kind) => {
          const remembered = held.find((each) => each.kind === kind);
          return (
            <li key={kind}>
              <span>{say.kinds[kind]}</span>
              <span className="quiet">
                {remembered === undefined
                  ? say.none
                  : `${say.lately(remembered.lately.filter(Boolean).length, remembered.lately.length)}, ${
                      remembered.box === 1 || Date.parse(remembered.due) <= now
                        ? say.now
                        : say.again(instantText(remembered.due))
                    }`}
              </span>
            </li>
          );
        })}
      </ul>
      <p className="quiet mb-0">{say.source}</p>
    </section>
  );
}
