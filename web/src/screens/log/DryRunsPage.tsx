import { useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Link, useLocation } from "wouter";
import { type Scenario, useScenarios } from "../../questions/dryRun";
import { beginDryRun } from "../../state/dryRun";
import { played } from "../../state/dryRuns";
import { goingOn, useOutings } from "../../state/outings";
import { useSession } from "../../state/session";
import { Fault } from "../../ui/Fault";
import { saveAs } from "../../ui/saveAs";
import { useFileDrop } from "../../ui/useFileDrop";
import { useNow } from "../../ui/useNow";
import { dryRunWords } from "../../words/dryRun";
import { instantText } from "./frameText";
import { PracticeKinds } from "./PracticeKinds";
import "./practice.css";

const say = dryRunWords.page;
const SEEDS = 2 ** 31;
const MOST_BYTES = 400_000;

/** Choose a dry run: one that ships, one of a file, or the replay of one that is over. */
export function DryRunsPage() {
  const shipped = useScenarios();
  const { practice } = useSession();
  const [, navigate] = useLocation();
  const { outings, current } = useOutings();
  const outing = goingOn(outings, current, useNow(60_000));
  const [expert, setExpert] = useState(false);
  const [another, setAnother] = useState(false);
  const [fault, setFault] = useState<unknown>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [beginning, setBeginning] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const start = async (scenario: Scenario) => {
    if (beginning) return;
    setFault(null);
    setProblem(null);
    setBeginning(true);
    try {
      const begun = await beginDryRun(scenario, another ? Math.floor(Math.random() * SEEDS) : null, expert);
      if (begun) navigate("/");
      else setProblem(say.realRuns);
    } catch (error) {
      setFault(error);
    }
    setBeginning(false);
  };
  const fromFile = async (chosen: File | undefined) => {
    if (!chosen) return;
    setFault(null);
    if (chosen.size > MOST_BYTES) {
      setProblem(say.tooLarge);
      return;
    }
    let read: unknown;
    try {
      read = JSON.parse(await chosen.text());
    } catch {
      setProblem(say.noJson);
      return;
    }
    await start(read as Scenario);
  };
  useFileDrop((files) => void fromFile(files[0]));
  return (
    <div className="practice">
      <PracticeKinds />
      <h1>{say.title}</h1>
      <p className="quiet mb-0">{say.why}</p>
      <Fault error={shipped.error} again={shipped.again} />
      <Fault error={fault} />
      {problem !== null && (
        <p className="fault" role="alert">
          {problem}
        </p>
      )}
      {!practice && outing && <p className="run-note mb-0">{say.outingLive(outing.name)}</p>}
      {practice ? (
        <p className="mb-0">{say.running}</p>
      ) : (
        <>
          <div className="dry-run-options">
            <Form.Check
              type="switch"
              id="dry-expert"
              label={say.expert}
              checked={expert}
              onChange={({ target }) => setExpert(target.checked)}
            />
            <Form.Check
              type="switch"
              id="dry-another"
              label={say.another}
              checked={another}
              onChange={({ target }) => setAnother(target.checked)}
            />
          </div>
          <ul className="plain-list dry-runs">
            {shipped.shown?.scenarios.map((scenario) => (
              <li key={scenario.id}>
                <h2>{scenario.name}</h2>
                <p>{scenario.story}</p>
                <p>
                  <strong>{scenario.teaches}</strong>
                </p>
                <p className="quiet">
                  {say.pictures(scenario.framings.map(({ name }) => name).join(", "))}. {say.minutes(scenario.minutes)}.
                </p>
                <div className="side-by-side">
                  <Button
                    variant="quiet"
                    disabled={beginning}
                    aria-label={say.start(scenario.name)}
                    onClick={() => void start(scenario)}
                  >
                    {say.begin}
                  </Button>
                  <Button
                    variant="link"
                    className="plain-link"
                    aria-label={`${say.save}: ${scenario.name}`}
                    onClick={() =>
                      saveAs(
                        `${scenario.id}.json`,
                        new Blob([JSON.stringify(scenario, null, 1)], { type: "application/json" }),
                      )
                    }
                  >
                    {say.save}
                  </Button>
                </div>
              </li>
            ))}
          </ul>
          <div className="dry-run-file">
            <Button variant="quiet" onClick={() => file.current?.click()}>
              {say.file}
            </Button>
            <span className="quiet">{say.fileWhy}</span>
            <input
              ref={file}
              type="file"
              accept="application/json,.json"
              className="visually-hidden"
              aria-label={say.file}
              tabIndex={-1}
              onChange={({ target }) => {
                void fromFile(target.files?.[0]);
                target.value = "";
              }}
            />
          </div>
        </>
      )}
      <Played />
    </div>
  );
}

function Played() {
  const docs = played.useDocs();
  return (
    <section className="practice-progress" aria-label={say.played}>
      <h2>{say.played}</h2>
      {docs.length === 0 && <p className="quiet mb-0">{say.none}</p>}
      <ul className="plain-list">
        {docs.map(({ id, content }) => (
          <li key={id}>
            <Link to={`/log/practice/runs/${id}`}>{content.name}</Link>
            <span className="quiet">
              {instantText(content.ended_at)}
              {content.expert && `, ${say.expertMark}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
