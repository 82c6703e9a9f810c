import type { ScaleTime } from "d3-scale";
import { useState } from "react";
import { Button } from "react-bootstrap";
import { MOST_SKIES, type Outing, skiesOf } from "../../state/outings";
import { Choice } from "../../ui/fields";
import { outingWords } from "../../words/outing";
import { wallTime } from "../../words/zone";
import { GRAIN, TimeHandle } from "./TimeHandle";

type Sky = Outing["sky"];

interface Props {
  outing: Outing;
  x: ScaleTime<number, number>;
  /** What is shown of the outing [ms], and how many pixels that is. */
  first: number;
  last: number;
  pixels: number;
  /** The minute that is pointed at, where one is. */
  at: number | undefined;
  clock: (ms: number) => string;
  onChange: (change: Pick<Outing, "sky" | "skies">) => void;
}

const say = outingWords.lane;
const SKIES: readonly Sky[] = ["clear", "thin", "overcast", "heavy"];

/** The cloud along the outing, as a lane one works on: a stretch is touched to be another sky, its beginning is dragged. */
export function SkyLane({ outing, x, first, last, pixels, at, clock, onChange }: Props) {
  const [open, setOpen] = useState<number | null>(null);
  const changes = skiesOf(outing);
  const stretches = [{ from: -Infinity, sky: outing.sky }, ...changes].map((stretch, place, all) => ({
    ...stretch,
    place,
    begins: Math.max(first, stretch.from),
    ends: Math.min(last, all[place + 1]?.from ?? Infinity),
  }));
  const keep = (next: { from: number; sky: Sky }[], sky: Sky = outing.sky) =>
    onChange({ sky, skies: next.map(({ from, sky: then }) => ({ time: wallTime(from, outing.zone), sky: then })) });
  const become = (place: number, sky: Sky) =>
    place === 0 ? keep(changes, sky) : keep(changes.with(place - 1, { from: changes[place - 1]?.from ?? first, sky }));
  const chosen = open === null ? undefined : stretches[open];
  // Where the stretch is parted: at the minute that is pointed at, else in its middle.
  const inside = (ms: number) => chosen !== undefined && ms >= chosen.begins + GRAIN && ms <= chosen.ends - GRAIN;
  const middle = chosen ? (chosen.begins + chosen.ends) / 2 : 0;
  const parting = Math.round((at !== undefined && inside(at) ? at : middle) / GRAIN) * GRAIN;
  const part = () => {
    if (!chosen) return;
    const next = SKIES[(SKIES.indexOf(chosen.sky) + 1) % SKIES.length] ?? "thin";
    keep([...changes, { from: parting, sky: next }].toSorted((a, b) => a.from - b.from));
    setOpen(chosen.place + 1);
  };
  return (
    <div className="sky-lane" role="group" aria-label={say.label}>
      {stretches
        .filter(({ begins, ends }) => ends > begins)
        .map(({ place, sky, begins, ends }) => (
          <button
            key={place}
            type="button"
            className={`sky-stretch sky-${sky}`}
            style={{ left: x(begins), width: x(ends) - x(begins) }}
            aria-expanded={open === place}
            aria-label={say.stretch(clock(begins), clock(ends), outingWords.skies[sky] ?? sky)}
            onClick={() => setOpen(open === place ? null : place)}
          >
            {outingWords.skies[sky]}
          </button>
        ))}
      {changes.map((change, place) =>
        change.from > first && change.from < last ? (
          <TimeHandle
            // The same handle wherever it is moved to, or the keys would lose it.
            key={place}
            className="sky-handle"
            label={say.begins(outingWords.skies[change.sky] ?? change.sky)}
            left={x(change.from)}
            ms={change.from}
            pixels={pixels}
            span={last - first}
            held={(ms) => {
              const rounded = Math.round(ms / GRAIN) * GRAIN;
              const after = (changes[place - 1]?.from ?? first) + GRAIN;
              return Math.max(after, Math.min(rounded, (changes[place + 1]?.from ?? last) - GRAIN));
            }}
            timeAt={clock}
            onMoved={(from) => keep(changes.with(place, { ...change, from }))}
          />
        ) : null,
      )}
      {chosen && (
        <div className="sky-open">
          <Choice
            name="sky-becomes"
            wide
            label={say.is}
            value={chosen.sky}
            choices={SKIES.map((sky) => [sky, outingWords.skies[sky] ?? sky] as const)}
            onValue={(sky) => become(chosen.place, sky)}
          />
          <div className="sky-acts">
            <Button
              variant="quiet"
              disabled={changes.length >= MOST_SKIES || chosen.ends - chosen.begins < 4 * GRAIN}
              onClick={part}
            >
              {say.part(clock(parting))}
            </Button>
            {chosen.place > 0 && (
              <Button
                variant="quiet"
                onClick={() => {
                  keep(changes.toSpliced(chosen.place - 1, 1));
                  setOpen(null);
                }}
              >
                {say.remove}
              </Button>
            )}
          </div>
        </div>
      )}
    </div>
  );
}
