import { words } from "../../words";
import { markText, roughTime, signedStops, timeParts, timeText } from "../../words/times";
import { type Laid, settingsOf } from "../../state/bench";
import type { Exposure } from "../../questions/bench";

interface Props {
  answer: Exposure;
  laid: Laid;
}

/** The time to set and how sure it is. */
export function Answer({ answer, laid, stale }: Props & { stale: boolean }) {
  const mark = answer.dial_mark;
  const sure = words.bench.sure(
    answer.sure_within_stops.toFixed(1),
    roughTime(answer.from_seconds),
    roughTime(answer.to_seconds),
  );
  return (
    <div className="answer" data-stale={stale || undefined}>
      <h2>{mark ? words.bench.set : words.bench.hold}</h2>
      <p className="answer-time" aria-live="polite" data-testid="answer-time">
        {mark ? <BigMark label={mark} /> : <BigTime seconds={answer.seconds} />}
      </p>
      <p className="answer-sure">
        {mark
          ? words.bench.exactly(timeText(answer.seconds))
          : words.bench.bulb(markText(String(laid.dialLimit)), answer.past_dial_stops.toFixed(1))}{" "}
        {sure}
      </p>
    </div>
  );
}

/** The sum line by line, and rounder times with their cost; while a time is held, nothing is rounded. */
export function Sum({ answer, laid, held, stale }: Props & { held: boolean; stale: boolean }) {
  const mark = answer.dial_mark;
  return (
    <div className="reckoning" data-stale={stale || undefined}>
      <h3 className="visually-hidden">{words.bench.sum}</h3>
      <table className="sum">
        <tbody>
          {answer.steps.map((step, place) => (
            <tr key={place}>
              <th scope="row">{stepName(step, laid)}</th>
              <td>{place > 0 && (step.kind === "in_reading" ? "0" : signedStops(step.stops))}</td>
              <td>{timeText(step.seconds)}</td>
            </tr>
          ))}
        </tbody>
        {!held && answer.rounded.length > 0 && (
          <tbody className="sum-rounded">
            {answer.rounded.map((rounder) => (
              <tr key={rounder.seconds}>
                <th scope="row">{mark ? words.bench.roundedOnDial : words.bench.rounded}</th>
                <td>{signedStops(rounder.stops)}</td>
                <td>{rounder.mark ? markText(rounder.mark) : timeText(rounder.seconds).replace(" 00 s", "")}</td>
              </tr>
            ))}
          </tbody>
        )}
      </table>
    </div>
  );
}

function BigTime({ seconds }: { seconds: number }) {
  return timeParts(seconds).map((part) => (
    <span key={part.unit} className="answer-part">
      {part.value}
      <small>{part.value.startsWith("1/") ? "" : part.unit}</small>
    </span>
  ));
}

function BigMark({ label }: { label: string }) {
  return (
    <span className="answer-part">
      {label}
      <small>{label.includes("/") ? "" : "s"}</small>
    </span>
  );
}

function stepName(step: Exposure["steps"][number], laid: Laid): string {
  const glass = step.glass == null ? undefined : laid.stack[step.glass]?.name;
  const { aperture, iso } = laid.bench;
  const shot = settingsOf(laid);
  switch (step.kind) {
    case "reading":
      return words.bench.stepNames.reading;
    case "measured":
      return step.stops > 0 ? words.bench.darker(glass ?? "") : words.bench.lighter(glass ?? "");
    case "in_reading":
      return words.bench.stepNames.in_reading(glass ?? "");
    case "aperture":
      return words.bench.stepNames.aperture(`f/${aperture}`, `f/${shot.aperture}`);
    case "iso":
      return words.bench.stepNames.iso(iso, shot.iso);
    case "light":
      return step.stops < 0 ? words.bench.stepNames.lightRises : words.bench.stepNames.lightFalls;
    case "film":
      return words.bench.stepNames.film(laid.film?.name ?? "");
    default:
      return glass ?? step.name;
  }
}
