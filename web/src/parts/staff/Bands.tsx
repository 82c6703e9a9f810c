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
  /** The time that stands there: the look it gives is bold [s]. */
  at?: number | undefined;
  onWant?: ((want: { kind: string; look: string }) => void) | undefined;
  /** To the next subject, where only one finds room. */
  onNext?: (() => void) | undefined;
}

const GAP = 8;
/** Room for the name above; as a button it is as high as a finger. */
const HEAD = 26;
const HEAD_BUTTON = 48;
const FINGER = 48;
const LEAST_LABEL = 17;
/** Lower than this a window cannot be hit safely: it is picked in the list instead. */
const LEAST_TARGET = 24;

/** What moves in the picture, as columns of windows on the staff's own axis; a tap on one aims for it. */
export function Bands({ bands, scale, x, width, top, at, onWant, onNext }: Props) {
  const each = (width - GAP * (bands.length - 1)) / bands.length;
  const [low, high] = scale.ends;
  const head = onNext ? HEAD_BUTTON : HEAD;
  // Under a finger a low window is hit on more than it covers.
  const least = window.matchMedia("(pointer: coarse)").matches ? FINGER : 0;
  return bands.map((band, column) => (
    <div
      key={band.id}
      className="band-column"
      role="group"
      aria-label={words.looks.wish(band.name)}
      style={{ left: x + column * (each + GAP), width: each, top: top - head }}
    >
      {onNext ? (
        <button type="button" className="band-name band-next" onClick={onNext} aria-label={words.looks.next(band.name)}>
          {band.name}
        </button>
      ) : (
        <span className="band-name">{band.name}</span>
      )}
      {band.windows.map((look, place) => {
        const [from, to] = [Math.max(look.from, low), Math.min(look.to ?? high, high)];
        if (from >= to) return null;
        const upper = Math.max(scale(to), top);
        const height = scale(from) - upper - 1;
        if (height <= 0) return null;
        const given = at !== undefined && at >= look.from && (look.to === null || at < look.to);
        const shade = `band band-${place % 2}${look.wanted ? " band-wanted" : ""}${given ? " band-given" : ""}`;
        const drawn = (
          <span className={shade} style={{ height }}>
            {height >= LEAST_LABEL ? look.look : ""}
          </span>
        );
        const more = Math.max(0, least - height) / 2;
        return onWant && height >= LEAST_TARGET ? (
          <button
            key={look.look}
            type="button"
            className="band-hit"
            style={{ top: upper - top + head - more, height: height + 2 * more, zIndex: more > 0 ? 1 : 0 }}
            aria-label={look.look}
            aria-pressed={look.wanted}
            onClick={() => onWant({ kind: band.kind, look: look.look })}
          >
            {drawn}
          </button>
        ) : (
          <div key={look.look} className="band-hit" style={{ top: upper - top + head, height }}>
            {drawn}
          </div>
        );
      })}
    </div>
  ));
}
