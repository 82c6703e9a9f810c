import { Button } from "react-bootstrap";
import { Belongs } from "../../parts/review/Belongs";
import type { Frame } from "../../state/frames";
import { Fault } from "../../ui/Fault";
import { runWords } from "../../words/run";
import type { useOffer } from "./offer";

const say = runWords.correct;

/** After a verdict: what the next frame is corrected by, the same by the aperture, and where the error belongs. */
export function Again({
  frame,
  offered: { offer, opened, error, again },
}: {
  frame: Frame;
  offered: ReturnType<typeof useOffer>;
}) {
  const because = frame.review?.because ?? null;
  return (
    <div className="again">
      <Fault error={error} again={again} />
      {offer && (
        <>
          <p className="mb-0">{offer.step}</p>
          {opened && (
            <Button variant="quiet" onClick={() => opened.arm(because)}>
              {say.sameTime(opened.aperture, opened.time)}
            </Button>
          )}
        </>
      )}
      <Belongs frame={frame} />
    </div>
  );
}
