import { words } from "../../words";
import type { Axis } from "./axis";

export interface Band {
  /** The subject it belongs to, what kind it is, and its name. */
  id: string;
  kind: string;
  name: string;
  windows: { look: string; from: number; to: number | null; wanted: boolean }[];
}

interface Props {
  bands: Band[];
  scale: Axis;
  x: number;
  width: number;
  /** Where the axis ends above [px]. */
  top: number;
  onWant?: ((want: { kind: string; look: string }) => void) | undefined;
  /** To the next subject, where only one finds room. */
  onNext?: (() => void) | undefined;
}

const GAP = 6;
const HEAD = 30;
const LEAST_LABEL = 17;
/** Lower than this a window cannot be hit safely: it is picked in the list instead. */
const LEAST_TARGET = 24;

/** What moves in the picture, as columns of windows on the staff's own axis; a tap on one aims for it. */
export function Bands({ bands, scale, x, width, top, onWant, onNext }: Props) {
  const each = (width - GAP * (bands.length - 1)) / bands.length;
  const [low, high] = scale.ends;
  return bands.map((band, place) => (
    <div
      key={band.id}
      className="band-column"
      role="group"
      aria-label={words.looks.wish(band.name)}
      style={{ left: x + place * (each + GAP), width: each, top: top - HEAD }}
    >
      {onNext ? (
        <button type="button" className="band-name band-next" onClick={onNext} aria-label={words.looks.next(band.name)}>
          {band.name}
        </button>
      ) : (
        <span className="band-name">{band.name}</span>
      )}
      {band.windows.map((window, at) => {
        const [from, to] = [Math.max(window.from, low), Math.min(window.to ?? high, high)];
        if (from >= to) return null;
        const upper = Math.max(scale(to), top);
        const height = scale(from) - upper - 1;
        if (height <= 0) return null;
        const box = { top: upper - top + HEAD, height };
        const name = height >= LEAST_LABEL ? window.look : "";
        const shade = `band band-${at % 2}${window.wanted ? " band-wanted" : ""}`;
        return onWant && height >= LEAST_TARGET ? (
          <button
            key={window.look}
            type="button"
            className={shade}
            style={box}
            aria-pressed={window.wanted}
            onClick={() => onWant({ kind: band.kind, look: window.look })}
          >
            {name}
          </button>
        ) : (
          <span key={window.look} className={shade} style={box}>
            {name}
          </span>
        );
      })}
    </div>
  ));
}
