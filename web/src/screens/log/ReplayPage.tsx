import { Button } from "react-bootstrap";
import { Link, useLocation, useParams } from "wouter";
import { DryHistogram } from "../../parts/dryrun/DryHistogram";
import { DryPicture } from "../../parts/dryrun/DryPicture";
import { type Developed, type Replay, useReplay } from "../../questions/dryRun";
import { beginDryRun } from "../../state/dryRun";
import { type Played, played } from "../../state/dryRuns";
import { useSession } from "../../state/session";
import { Fault } from "../../ui/Fault";
import { faultText } from "../../ui/faultText";
import { say as toast } from "../../ui/say";
import { dryRunWords } from "../../words/dryRun";
import { signedStops } from "../../words/times";
import { PracticeKinds } from "./PracticeKinds";
import { ReplayTimeline } from "./ReplayTimeline";
import "./practice.css";
import "./replay.css";
import { useOnce } from "../../ui/useOnce";

const say = dryRunWords.replay;

/** A dry run laid beside what was possible. */
export function ReplayPage() {
  const { id = "" } = useParams();
  const held = played.useOne(id);
  const replayed = useReplay(held?.question ?? null);
  if (!held)
    return (
      <div className="practice">
        <PracticeKinds />
        <h1>{dryRunWords.page.title}</h1>
        <p>{say.gone}</p>
        <Link to="/log/practice/runs">{say.back}</Link>
      </div>
    );
  return (
    <div className="practice replay">
      <PracticeKinds />
      <header className="heading-line">
        <h1>{say.title(held.name)}</h1>
        {replayed.answer && <span>{replayed.answer.text}</span>}
      </header>
      <Fault error={replayed.error} again={replayed.again} />
      {replayed.answer && <Lessons replay={replayed.answer} held={held} />}
    </div>
  );
}

function Lessons({ replay, held }: { replay: Replay; held: Played }) {
  const [, navigate] = useLocation();
  const { practice } = useSession();
  const { scenario } = held.question;
  const again = useOnce(async () => {
    try {
      await beginDryRun(scenario, null, held.expert);
      navigate("/");
    } catch (error) {
      toast({ text: faultText(error) });
    }
  });
  return (
    <>
      <section className="replay-next" aria-label={say.next}>
        <h2>{say.next}</h2>
        <p>{replay.practise.text}</p>
        <div className="side-by-side">
          {replay.practise.drill && (
            <Link to={`/log/practice?kind=${replay.practise.drill}`} className="btn btn-quiet">
              {say.toDrills}
            </Link>
          )}
          {!practice && (
            <Button variant="quiet" onClick={() => void again()}>
              {say.again}
            </Button>
          )}
        </div>
      </section>
      <ReplayTimeline replay={replay} scenario={scenario} />
      <Losses replay={replay} />
      <section aria-label={say.pictures}>
        <h2>{say.pictures}</h2>
        <div className="replay-pictures">
          {replay.pictures.map((picture) => {
            const mine = picture.obtained == null ? null : replay.frames[picture.obtained];
            return (
              <article key={picture.framing}>
                <h3>{picture.name}</h3>
                <div className="replay-pair">
                  <Side
                    title={say.yours}
                    name={picture.name}
                    drawn={picture.drawn}
                    none={say.notTaken}
                    of={mine?.developed}
                  >
                    {picture.text}
                  </Side>
                  <Side
                    title={say.possible}
                    name={picture.name}
                    drawn={picture.drawn}
                    none={say.notToHave}
                    of={picture.possible?.developed}
                  >
                    {picture.possible?.text}
                  </Side>
                </div>
              </article>
            );
          })}
        </div>
      </section>
      <section aria-label={say.hidden}>
        <h2>{say.hidden}</h2>
        <ul className="plain-list replay-hidden">
          {replay.filters.map((filter) => (
            <li key={filter.id}>
              <span>{filter.name}</span>
              <strong>
                {Math.abs(filter.stops) < 0.05
                  ? say.exact
                  : say.denser(signedStops(Math.round(filter.stops * 10) / 10))}
              </strong>
            </li>
          ))}
        </ul>
      </section>
    </>
  );
}

interface SideProps {
  title: string;
  name: string;
  drawn: string;
  none: string;
  of: Developed | undefined;
  children: React.ReactNode;
}

function Side({ title, name, drawn, none, of, children }: SideProps) {
  return (
    <figure>
      <h4>{title}</h4>
      {of ? (
        <>
          <DryPicture developed={of} drawn={drawn as "mole"} name={name} />
          <DryHistogram developed={of} />
        </>
      ) : (
        <p className="replay-none">{none}</p>
      )}
      <figcaption>{children}</figcaption>
    </figure>
  );
}

function Losses({ replay }: { replay: Replay }) {
  const { losses } = replay;
  const [frame, what, stops, minutes, cure] = say.columns;
  // Frames are counted as the timeline does: trials and dark frames count along.
  const numbered = (shot: number | null | undefined) => (shot == null ? say.outing : say.frame(shot + 1));
  return (
    <section aria-label={say.losses}>
      <h2>{say.losses}</h2>
      {losses.length === 0 ? (
        <p>{say.nothingLost}</p>
      ) : (
        <div className="table-responsive">
          <table className="sum replay-losses">
            <thead>
              <tr>
                {[frame, what, stops, minutes, cure].map((title) => (
                  <th key={title} scope="col">
                    {title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {losses.map((loss, place) => (
                <tr key={place} data-code={loss.code}>
                  <th scope="row">{numbered(loss.shot)}</th>
                  <td>{loss.text}</td>
                  <td data-unit={say.units.stops}>{loss.stops == null ? "" : signedStops(loss.stops)}</td>
                  <td data-unit={say.units.minutes}>{loss.minutes < 0.05 ? "" : loss.minutes.toFixed(1)}</td>
                  <td>{loss.cure}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
