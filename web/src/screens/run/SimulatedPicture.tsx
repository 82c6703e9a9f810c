import { NeedsSignal } from "../../parts/takealong/NeedsSignal";
import { useSimulatedPicture } from "../../questions/run";
import { sceneOf } from "../../state/asks";
import { useBench } from "../../state/bench";
import type { Frame } from "../../state/frames";
import { runWords } from "../../words/run";

/** What the simulated camera hands over: a drawing as bright as the frame really came out. */
export function SimulatedPicture({ frame }: { frame: Frame }) {
  const [laid] = useBench();
  const picture = useSimulatedPicture(
    laid && {
      scene: { ...sceneOf(laid), wants: [], seconds: frame.actual_seconds ?? 1 },
      gathered_stops: frame.error?.stops ?? 0,
      glass: frame.stack.map((glass) => ({ name: glass.name, stops: glass.stops, offset: glass.offset ?? 0 })),
      aperture: frame.settings.aperture,
      iso: frame.settings.iso,
      taken_at: frame.opened_at,
      seed: 7,
    },
  );
  if (!picture) return <NeedsSignal />;
  return (
    <figure className="simulated-picture">
      <span className="photo">
        <img src={picture} alt={runWords.pictureAlt} />
      </span>
      <figcaption>
        {runWords.picture}{" "}
        <a
          className="plain-link"
          href={picture}
          download={`jackstaff-${frame.opened_at.slice(0, 19).replaceAll(":", "")}.jpg`}
        >
          {runWords.pictureSave}
        </a>
      </figcaption>
    </figure>
  );
}
