import { useState } from "react";
import { drawingAt, useDrawing } from "../../questions/looks";
import { sceneOf } from "../../state/asks";
import type { Laid } from "../../state/bench";
import { useOnline } from "../../ui/useOnline";
import { useSettled } from "../../ui/useSettled";
import { words } from "../../words";
import { timeText } from "../../words/times";
import { blendOf, PREPARED } from "./prepared";
import "./scene-glance.css";

/** How wide the prepared ones are, which stand there while the pennant moves [px]. */
const SMALL = 240;
const SETTLES_MS = 700;
/** What a screen makes of a doubling: near enough for looking at. */
const DISPLAY_GAMMA = 2.2;

interface Props {
  laid: Laid;
  /** The time that stands there; undefined while there is none. */
  seconds: number | undefined;
  /** The time under the hand while the pennant is dragged. */
  pulled: number | null;
  /** What the time does to what moves, in a line. */
  caption: string;
  /** Opens it large, with other times beside it. */
  onOpen?: () => void;
  /** How much brighter it is shown than the light that was asked for [stops]. */
  stops?: number;
}

/** The scene drawn at the time that stands there: part of the answer, and following the pennant under the hand. */
export function SceneGlance({ laid, seconds, pulled, caption, onOpen, stops = 0 }: Props) {
  const settled = useSettled(seconds ?? null, SETTLES_MS);
  const scene = sceneOf(laid);
  const online = useOnline();
  const picture = (
    <span
      className="glance-light"
      style={stops === 0 ? undefined : { filter: `brightness(${2 ** (stops / DISPLAY_GAMMA)})` }}
    >
      {settled === null ? (
        <span className="frame" data-state="waiting" />
      ) : (
        <Still key={drawingAt(scene, settled, widthHere())} scene={scene} seconds={settled} />
      )}
      {pulled !== null && online && <Moving scene={scene} seconds={pulled} />}
    </span>
  );
  return (
    <figure className="glance">
      {onOpen ? (
        <button type="button" className="glance-picture" aria-label={words.looks.drawing.open} onClick={onOpen}>
          {picture}
        </button>
      ) : (
        <div className="glance-picture">{picture}</div>
      )}
      <figcaption>
        <span className="glance-caption">{caption}</span> <span className="quiet">{words.looks.drawing.drawn}</span>
      </figcaption>
    </figure>
  );
}

/** How wide the picture beside the answer is asked for [px]: what a drawing costs goes with its area. */
function widthHere(): number {
  return window.innerWidth < PHONE_PX ? SMALL : LARGE;
}

const PHONE_PX = 900;
const LARGE = 420;

type Scene = ReturnType<typeof sceneOf>;

function Still({ scene, seconds }: { scene: Scene; seconds: number }) {
  const [state, setState] = useState<"waiting" | "there" | "failed">("waiting");
  const online = useOnline();
  const { address, failed } = useDrawing(online || state === "there" ? scene : null, seconds, widthHere());
  const shown = failed || (!online && state === "waiting") ? "failed" : state;
  return (
    <span className="frame" data-state={shown}>
      <img
        src={address ?? undefined}
        fetchPriority="low"
        alt={words.looks.drawing.alt(timeText(seconds))}
        onLoad={() => setState("there")}
        onError={() => setState("failed")}
      />
      {shown === "failed" && <span className="frame-word">{words.looks.drawing.noSignal}</span>}
    </span>
  );
}

/** Two prepared drawings laid over each other: no request is made for each place of the hand. */
function Moving({ scene, seconds }: { scene: Scene; seconds: number }) {
  const { under, share } = blendOf(seconds);
  // No more than the two that are seen: whatever else the page asks for goes before pictures.
  return PREPARED.map(
    (time, place) =>
      (place === under || place === under + 1) && (
        <Prepared key={time} scene={scene} seconds={time} opacity={place === under ? 1 : share} />
      ),
  );
}

function Prepared({ scene, seconds, opacity }: { scene: Scene; seconds: number; opacity: number }) {
  const { address } = useDrawing(scene, seconds, SMALL);
  return <img className="glance-moving" src={address ?? undefined} fetchPriority="low" alt="" style={{ opacity }} />;
}
