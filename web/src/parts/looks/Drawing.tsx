import { useEffect, useState } from "react";
import { Button } from "react-bootstrap";
import { NeedsSignal } from "../takealong/NeedsSignal";
import type { Laid } from "../../state/bench";
import { useSettled } from "../../ui/useSettled";
import { words } from "../../words";
import { roughTime, timeText } from "../../words/times";
import { drawingAt, useDrawing } from "../../questions/looks";
import { sceneOf } from "../../state/asks";

const STRIP = [1 / 250, 1 / 4, 4, 30, 240];
/** How wide the drawing and those beside it are asked for [px]. */
const LARGE = 720;
const SMALL = 240;

interface Props {
  laid: Laid;
  /** The time the pennant stands at. */
  seconds: number;
  onClose: () => void;
}

/** The made-up scene at the pennant's time, with five times beside it. */
export function Drawing({ laid, seconds, onClose }: Props) {
  const [picked, setPicked] = useState<number | null>(null);
  const shown = useSettled(picked ?? seconds, 200);
  // The small ones keep out of the large one's way: on a slow server it is what one waits for.
  const [largeDone, setLargeDone] = useState(false);
  return (
    <aside className="drawing" aria-label={words.looks.drawing.title}>
      <NeedsSignal />
      <figure>
        <Frame
          key={drawingAt(sceneOf(laid), shown, LARGE)}
          laid={laid}
          seconds={shown}
          width={LARGE}
          onDone={() => setLargeDone(true)}
        />
        <figcaption>
          <strong>{timeText(shown)}</strong> {words.looks.drawing.caution}
        </figcaption>
      </figure>
      <div className="drawing-strip" role="group" aria-label={words.looks.drawing.strip}>
        <button type="button" aria-pressed={picked === null} onClick={() => setPicked(null)}>
          <Frame laid={laid} seconds={seconds} width={SMALL} held={!largeDone} />
          <span>{words.looks.drawing.now}</span>
        </button>
        {STRIP.map((time) => (
          <button key={time} type="button" aria-pressed={picked === time} onClick={() => setPicked(time)}>
            <Frame laid={laid} seconds={time} width={SMALL} held={!largeDone} />
            <span>{roughTime(time)}</span>
          </button>
        ))}
      </div>
      <Button variant="quiet" size="sm" onClick={onClose}>
        {words.looks.drawing.close}
      </Button>
    </aside>
  );
}

interface FrameProps {
  laid: Laid;
  seconds: number;
  width: number;
  /** Not asked for yet. */
  held?: boolean;
  /** It is there, or cannot be had. */
  onDone?: () => void;
}

/** One drawing; the words take its place while it is on its way or when it cannot be had. */
function Frame({ laid, seconds, width, held = false, onDone }: FrameProps) {
  const [state, setState] = useState<"waiting" | "there" | "failed">("waiting");
  const { address, failed } = useDrawing(held ? null : sceneOf(laid), seconds, width);
  const shown = failed ? "failed" : state;
  const done = shown !== "waiting";
  useEffect(() => {
    if (done) onDone?.();
  }, [done, onDone]);
  return (
    <span className="frame" data-state={shown}>
      <img
        src={address ?? undefined}
        width={width}
        height={Math.round((width * 2) / 3)}
        alt={words.looks.drawing.alt(timeText(seconds))}
        onLoad={() => setState("there")}
        onError={() => setState("failed")}
      />
      {shown === "waiting" && width === LARGE && <span className="frame-word">{words.looks.drawing.waiting}</span>}
      {shown === "failed" && <span className="frame-word">{words.looks.drawing.failed}</span>}
    </span>
  );
}
