import { Button } from "react-bootstrap";
import type { ExposureEnd } from "../../questions/exposureEnd";
import type { Frame } from "../../state/frames";
import { believe } from "../../state/runLight";
import { watchWords } from "../../words/watch";

/** A reading against the watch: which of them saw the scene. */
export function Disputed({ frame, light }: { frame: Frame; light: NonNullable<ExposureEnd["light"]> }) {
  const place = light.contradicts;
  if (place == null) return null;
  return (
    <div className="run-note run-disputed" role="alert">
      <p className="mb-0">{light.advice?.text}</p>
      <Button variant="quiet" onClick={() => void believe(frame.id, place, true)}>
        {watchWords.trustReading}
      </Button>
      <Button variant="quiet" onClick={() => void believe(frame.id, place, false)}>
        {watchWords.trustWatch}
      </Button>
    </div>
  );
}
