import { words } from "../words";
import { markText, roughTime, signedStops, timeParts, timeText } from "../words/times";
import { AdviceList } from "./AdviceList";
import type { Bench, Glass } from "./state";
import type { Exposure } from "./useBench";

interface Props {
  answer: Exposure;
  bench: Bench;
  stack: Glass[];
  stale: boolean;
}

/** The time to set and how sure it is. */
export function Answer({ answer, bench, stale }: Omit<Props, "stack">) {
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
          : words.bench.bulb(markText(String(bench.dialLimit)), answer.past_dial_stops.toFixed(1))}{" "}
        {sure}
      </p>
    </div>
  );
}

/** The sum line by line, rounder times with their cost, and what is worth knowing. */
export function Sum({ answer, bench, stack }: Omit<Props, "stale">) {
  const mark = answer.dial_mark;
  return (
    <div className="reckoning">
      <h3 className="visually-hidden">{words.bench.sum}</h3>
      <table className="sum">
        <tbody>
          {answer.steps.map((step, place) => (
            <tr key={place}>
              <th scope="row">{stepName(step, bench, stack)}</th>
              <td>{place > 0 && (step.kind === "in_reading" ? "0" : signedStops(step.stops))}</td>
              <td>{timeText(step.seconds)}</td>
            </tr>
          ))}
        </tbody>
        {answer.rounded.length > 0 && (
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
      <AdviceList advice={answer.advice.filter((one) => one.code !== "bulb")} />
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

function stepName(step: Exposure["steps"][number], bench: Bench, stack: Glass[]): string {
  const glass = step.glass == null ? undefined : stack[step.glass]?.name;
  switch (step.kind) {
    case "reading":
      return words.bench.stepNames.reading;
    case "measured":
      return step.stops > 0 ? words.bench.darker(glass ?? "") : words.bench.lighter(glass ?? "");
    case "in_reading":
      return words.bench.stepNames.in_reading(glass ?? "");
    case "aperture":
      return words.bench.stepNames.aperture(`f/${bench.aperture}`, `f/${bench.shotAperture ?? bench.aperture}`);
    case "iso":
      return words.bench.stepNames.iso(bench.iso, bench.shotIso ?? bench.iso);
    default:
      return glass ?? step.name;
  }
}
