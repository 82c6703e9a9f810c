import { useId } from "react";
import { Button } from "react-bootstrap";
import { changeFrame, type Frame } from "../../state/frames";
import { logWords } from "../../words/log";
import { thirdsText } from "../../words/times";
import { NOTHING, scaleEnd } from "./verdict";
import "./review.css";

const say = logWords.review;
/** The words beneath the scale, in thirds of a stop. */
const WORDS = [-6, -3, 0, 3, 6] as const;
const FAR = 6;

/** How bright a frame came out, on a scale of thirds of a stop: dragged, tapped by its words, or a third at a time. */
export function VerdictScale({ frame }: { frame: Frame }) {
  const id = useId();
  const came = frame.review?.error_stops == null ? null : Math.round(frame.review.error_stops * 3);
  const end = scaleEnd(came);
  const judge = (thirds: number | null) =>
    void changeFrame(frame.id, (now) => ({
      ...now,
      review: { ...(now.review ?? NOTHING), error_stops: thirds === null ? null : thirds / 3 },
    }));
  const text = came === null ? say.notYet : verdictWord(came);
  const place = (thirds: number) => `${((thirds + end) / (2 * end)) * 100}%`;
  return (
    <section className="verdict" aria-label={say.title}>
      <h2 id={id}>{say.title}</h2>
      <p className="quiet mb-0">{say.slide}</p>
      <div className="verdict-scale" data-set={came !== null || undefined}>
        <span
          className="verdict-pennant"
          data-side={(came ?? 0) > 0 ? "right" : "left"}
          style={{ left: place(came ?? 0) }}
          aria-hidden="true"
        >
          {text}
        </span>
        <input
          type="range"
          min={-end}
          max={end}
          step={1}
          value={came ?? 0}
          aria-labelledby={id}
          aria-valuetext={text}
          onChange={(event) => judge(Number(event.target.value))}
          // Where it stands at first is a verdict, too, once it is tapped or confirmed.
          onPointerUp={(event) => {
            if (came === null) judge(Number(event.currentTarget.value));
          }}
          onKeyDown={(event) => {
            if (came === null && event.key === "Enter") judge(0);
          }}
        />
        <div className="verdict-words" role="group" aria-label={say.title}>
          {(end > FAR ? WORDS.filter((thirds) => thirds === 0 || Math.abs(thirds) === FAR) : WORDS).map((thirds) => (
            <button
              key={thirds}
              type="button"
              aria-pressed={came === thirds}
              style={{ left: place(thirds) }}
              onClick={() => judge(came === thirds ? null : thirds)}
            >
              {say.words[thirds]}
            </button>
          ))}
        </div>
      </div>
      <div className="verdict-steps">
        <Button variant="quiet" onClick={() => judge(Math.max(-end, (came ?? 0) - 1))}>
          {say.darker}
        </Button>
        <Button variant="quiet" onClick={() => judge(Math.min(end, (came ?? 0) + 1))}>
          {say.brighter}
        </Button>
      </div>
    </section>
  );
}

/** "⅓ stop too dark", "good". */
function verdictWord(thirds: number): string {
  if (thirds === 0) return say.right;
  return say.by(thirdsText(thirds / 3), Math.abs(thirds) > 3, thirds < 0 ? "dark" : "bright");
}
