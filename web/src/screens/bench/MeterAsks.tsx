import { Button } from "react-bootstrap";
import { WatchLight } from "../../parts/lightwatch/WatchLight";
import { type Bench, type Glass, type Laid, wasOn } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import { words } from "../../words";
import { ForgottenFilter, PhoneMatch } from "./PhoneMatch";
import { watchedLight } from "./watchedLight";
import type { PhoneMatchState } from "./usePhoneMatch";

interface Props {
  laid: Laid;
  light: BenchLight;
  phone: PhoneMatchState;
  set: (change: Partial<Bench>) => void;
  /** A filter was on at the metering after all. */
  onThrough: (id: string) => void;
  /** It is as it stands. */
  onSaid: (id: string) => void;
}

/** What only somebody can answer about the reading: asked in its place, one line at a time. */
export function MeterAsks({ laid, light, phone, set, onThrough, onSaid }: Props) {
  const say = words.bench;
  const { bench, stack } = laid;
  const asked = stack.find((glass) => isAsked(glass) && !wasOn(laid, glass) && !bench.throughSaid.includes(glass.id));
  return (
    <div className="meter-asks">
      {asked && bench.meteredAt !== null && bench.meter === "camera" && (
        <p className="was-it-on" role="status">
          {say.wasItOn(asked.name)}
          <Button variant="quiet" onClick={() => onThrough(asked.id)}>
            {say.itWas}
          </Button>
          <Button variant="quiet" onClick={() => onSaid(asked.id)}>
            {say.itWasNot}
          </Button>
        </p>
      )}
      {light.contradicted && (
        <p className="was-it-on">
          {words.light.contradicted(light.outing.name)}{" "}
          <Button variant="quiet" onClick={() => set({ skyBelieved: bench.meteredAt })}>
            {words.light.believe}
          </Button>
        </p>
      )}
      {light.watch && (
        <WatchLight known={watchedLight(light)} question={<ForgottenFilter phone={phone} />}>
          <PhoneMatch phone={phone} />
        </WatchLight>
      )}
    </div>
  );
}

/** What is put on before metering as often as after it. */
function isAsked({ kind }: Glass): boolean {
  return kind === "polariser" || kind === "combined";
}
