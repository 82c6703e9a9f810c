import { Button } from "react-bootstrap";
import { useDensity, useReadout } from "../../questions/bench";
import { useMeasured } from "../../questions/kit";
import { USUAL_DIAL_S } from "../../parts/meter/typedTime";
import { kitWords } from "../../words/kit";
import { meaningText, signedStops } from "../../words/times";

interface Props {
  facts: Record<string, unknown>;
  set: (change: Record<string, unknown>) => void;
}

/** What the label and two readings say of a glass, each taken over with one press. */
export function GlassHelp({ facts, set }: Props) {
  const label = text(facts.label);
  const read = useDensity(label).answer;
  const [without, through] = [text(facts.reading_without), text(facts.reading_with)];
  const meanings = { reading_without: useMeanings(without), reading_with: useMeanings(through) };
  const certain = Object.values(meanings).every((all) => all?.length === 1);
  const measured = useMeasured(certain ? { without, with_it: through, step: "third" } : null).answer;
  const stops = typeof facts.stops === "number" ? facts.stops : 0;
  const readings = (read?.readings ?? []).filter(
    (reading) =>
      Math.abs(reading.stops - stops) > 0.05 || (reading.stops_max != null && facts.stops_max !== reading.stops_max),
  );
  const offset = measured && measured.stops - stops;
  return (
    <>
      {readings.map((reading) => (
        <p key={reading.notation + String(reading.stops)} className="glass-help">
          <span>
            {kitWords.label(short(reading.stops) + (reading.stops_max == null ? "" : `–${short(reading.stops_max)}`))}
          </span>
          <Button
            variant="quiet"
            size="sm"
            onClick={() =>
              set({
                stops: round(reading.stops),
                ...(reading.stops_max != null && { stops_max: round(reading.stops_max) }),
              })
            }
          >
            {kitWords.useLabel}
          </Button>
        </p>
      ))}
      {Object.entries(meanings).map(([name, all]) =>
        all && all.length > 1 ? (
          <p key={name} className="glass-help">
            <span>{kitWords.which(text(facts[name]))}</span>
            {all.map((mark) => (
              <Button key={mark} variant="quiet" size="sm" onClick={() => set({ [name]: mark })}>
                {mark}
              </Button>
            ))}
          </p>
        ) : null,
      )}
      {offset !== undefined && measured && facts.offset !== round(offset) && (
        <p className="glass-help">
          <span>{kitWords.measures(measured.stops.toFixed(1), signedStops(offset))}</span>
          <Button
            variant="quiet"
            size="sm"
            onClick={() =>
              set({
                offset: round(offset),
                give_or_take: 0.3,
                evidence: "two_readings",
                measured_on: new Date().toISOString().slice(0, 10),
              })
            }
          >
            {kitWords.useLabel}
          </Button>
        </p>
      )}
    </>
  );
}

/** What a reading as typed may mean, each as it can be read one way only; undefined while it is not known. */
function useMeanings(typed: string): string[] | undefined {
  const read = useReadout(typed === "" ? null : { text: typed, step: "third", dial_limit: USUAL_DIAL_S });
  return read.answer?.readings.map(({ mark, seconds }) => meaningText(mark, seconds));
}

function text(value: unknown): string {
  return typeof value === "string" ? value.trim() : "";
}

function short(stops: number): string {
  return String(Number(stops.toFixed(2)));
}

function round(stops: number): number {
  return Math.round(stops * 100) / 100;
}
