import { Button } from "react-bootstrap";
import { useDensity } from "../../questions/bench";
import { bagWords } from "../../words/bag";

interface Props {
  facts: Record<string, unknown>;
  set: (change: Record<string, unknown>) => void;
}

/** What the label says of a filter, taken over with one press. */
export function LabelHelp({ facts, set }: Props) {
  const label = typeof facts.label === "string" ? facts.label.trim() : "";
  const read = useDensity(label).answer;
  const stops = typeof facts.stops === "number" ? facts.stops : 0;
  const readings = (read?.readings ?? []).filter(
    (reading) =>
      Math.abs(reading.stops - stops) > 0.05 || (reading.stops_max != null && facts.stops_max !== reading.stops_max),
  );
  return readings.map((reading) => (
    <p key={reading.notation + String(reading.stops)} className="glass-help">
      <span>
        {bagWords.label(short(reading.stops) + (reading.stops_max == null ? "" : `–${short(reading.stops_max)}`))}
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
        {bagWords.useLabel}
      </Button>
    </p>
  ));
}

function short(stops: number): string {
  return String(Number(stops.toFixed(2)));
}

function round(stops: number): number {
  return Math.round(stops * 100) / 100;
}
