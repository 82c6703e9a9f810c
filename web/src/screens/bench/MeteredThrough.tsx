import { Button } from "react-bootstrap";
import { type Glass, type Laid, wasOn } from "../../state/bench";
import { words } from "../../words";
import { shortStops } from "../../words/times";

interface Props {
  laid: Laid;
  onThrough: (id: string) => void;
  onSaid: (id: string) => void;
  /** Filters that are neither on now nor were then. */
  onOthers: () => void;
}

/** What the reading was taken through: each filter that was on then or is on now says so, and a tap says the other. */
export function MeteredThrough({ laid, onThrough, onSaid, onOthers }: Props) {
  const say = words.bench;
  const { through, stack, bench } = laid;
  const seesThrough = laid.body?.facts.sees_through_stops ?? SEES_THROUGH;
  // Darker than a camera sees through nobody meters by mistake.
  const after = stack.filter((glass) => !wasOn(laid, glass) && glass.stops <= seesThrough);
  const shown = [...through, ...after].filter(isCounted);
  const asked = stack.find((glass) => isAsked(glass) && !wasOn(laid, glass) && !bench.throughSaid.includes(glass.id));
  return (
    <div className="metered-through">
      {asked && bench.meteredAt !== null && (
        <p className="was-it-on" role="status">
          {say.wasItOn(asked.name)}
          <Button variant="choice" size="sm" onClick={() => onThrough(asked.id)}>
            {say.itWas}
          </Button>
          <Button variant="choice" size="sm" onClick={() => onSaid(asked.id)}>
            {say.itWasNot}
          </Button>
        </p>
      )}
      <p className="meter-lines">
        {through.length > 0 ? say.through(through.map(named).join(", ")) : say.throughNone}
        {shown.map((glass) => (
          <Button key={glass.id} variant="link" className="plain-link" onClick={() => onThrough(glass.id)}>
            {wasOn(laid, glass) ? say.wasNotOn(glass.name) : say.wasOn(glass.name)}
          </Button>
        ))}
        <Button variant="link" className="plain-link" onClick={onOthers} aria-label={say.throughChange}>
          {say.change}
        </Button>
      </p>
    </div>
  );
}

/** What most cameras still meter through [stops]. */
const SEES_THROUGH = 6;

function named({ name, kind, stops }: Glass): string {
  return kind === "variable" ? words.bench.wasTurned(name, shortStops(stops)) : name;
}

/** A graduated filter says nothing of the metered part. */
function isCounted({ kind }: Glass): boolean {
  return kind !== "graduated";
}

/** What is put on before metering as often as after it. */
function isAsked({ kind }: Glass): boolean {
  return kind === "polariser" || kind === "combined";
}
