import { Link, useParams } from "wouter";
import { Histogram } from "../../parts/Histogram";
import { FrameStaff } from "../../parts/staff/FrameStaff";
import { usePicture } from "../../questions/log";
import { type Frame, useFrame } from "../../state/frames";
import { useSession } from "../../state/session";
import { words } from "../../words";
import { logWords } from "../../words/log";
import { actualTime, signedStops } from "../../words/times";
import { glassText, settingsText, verdictText, whenText } from "./frameText";
import { NoFrame } from "./Gone";
import { share } from "./share";

const say = logWords.compare;

/** Two frames side by side: pictures, tones laid over each other, and what was set. */
export function ComparePage() {
  const ids = useParams();
  const first = useFrame(ids.first ?? null);
  const second = useFrame(ids.second ?? null);
  const { account } = useSession();
  const firstPicture = usePicture(first?.pictured ? first.id : null, account);
  const secondPicture = usePicture(second?.pictured ? second.id : null, account);
  if (first === null || second === null) return <NoFrame />;
  if (!first || !second) return <p className="waiting">{logWords.loading}</p>;
  const shift = firstPicture && secondPicture ? firstPicture.median_stops - secondPicture.median_stops : null;
  const shifted =
    shift === null || Math.abs(shift) < 0.05
      ? say.same
      : say.shift(signedStops(Math.abs(shift)).replace("+", ""), shift > 0);
  return (
    <div className="compare">
      <header className="heading-line">
        <h1>{say.title}</h1>
        <Link to="/log" className="plain-link">
          {logWords.back}
        </Link>
      </header>
      <div className="compare-two">
        <Side frame={first} small={firstPicture?.small} name={say.first} />
        <Side frame={second} small={secondPicture?.small} name={say.second} />
      </div>
      {firstPicture && secondPicture && (
        <section aria-label={words.histogram.tones}>
          <h2>{words.histogram.tones}</h2>
          <Histogram digest={firstPicture} other={secondPicture} />
          <p className="mb-0" data-testid="compare-shift">
            {say.tonesText(
              shifted,
              share(Math.max(...firstPicture.clipped)),
              share(Math.max(...secondPicture.clipped)),
            )}
          </p>
          <p className="quiet mb-0">{say.estimate}</p>
        </section>
      )}
      <table className="sum compare-facts">
        <tbody>
          {rows(first, second).map(([name, left, right]) => (
            <tr key={name} data-differs={left !== right || undefined}>
              <th scope="row">{name}</th>
              <td>{left}</td>
              <td>{right}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Side({ frame, small, name }: { frame: Frame; small: string | undefined; name: string }) {
  return (
    <figure>
      {small ? (
        <span className="photo">
          <img src={`data:image/jpeg;base64,${small}`} alt={logWords.picture.alt} />
        </span>
      ) : (
        <p className="compare-none quiet">{say.noPicture}</p>
      )}
      <figcaption>
        <Link to={`/log/frame/${frame.id}`}>{whenText(frame)}</Link> <span className="quiet">({name})</span>
      </figcaption>
      <FrameStaff frame={frame} />
    </figure>
  );
}

function rows(a: Frame, b: Frame): [string, string, string][] {
  const both = (text: (frame: Frame) => string): [string, string] => [text(a), text(b)];
  return [
    [say.facts.opened, ...both((frame) => whenText(frame))],
    [say.facts.set, ...both((frame) => settingsText(frame))],
    [say.facts.glass, ...both(glassText)],
    [say.facts.real, ...both((frame) => actualTime(frame))],
    [say.facts.exposureError, ...both((frame) => verdictText(frame.review?.error_stops))],
    [
      say.facts.light,
      ...both((frame) => (frame.conditions?.ev100 == null ? "" : `EV ${frame.conditions.ev100.toFixed(1)}`)),
    ],
  ];
}
