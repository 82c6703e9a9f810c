import { Button } from "react-bootstrap";
import { cameraSeconds } from "../../state/clock";
import { type Frame, isAnothers, isOpenedHere, leaveAlone, lookAt, useOthersOpen, zoneOf } from "../../state/frames";
import { useNow } from "../../ui/useNow";
import { placeClock } from "../../words/clock";
import { runWords } from "../../words/run";
import { clockText } from "../../words/times";

/** Shutters that other devices of this account have open: it may be one camera by mistake, or two on purpose. */
export function AlsoOpen() {
  const others = useOthersOpen();
  useNow(1000);
  return others.map((frame) => (
    <div key={frame.id} className="run-note run-also" role="status">
      <span>{runWords.alsoOpen(placeClock(Date.parse(frame.opened_at), zoneOf(frame), "seconds"), gone(frame))}</span>
      <Button variant="quiet" onClick={() => lookAt(frame.id)}>
        {runWords.showIt}
      </Button>
    </div>
  ));
}

/** Whose it is, where it was not opened here; whoever is here may work on beside it. */
export function WhoseItIs({ frame }: { frame: Frame }) {
  const another = isAnothers(frame.id);
  if (!another && isOpenedHere(frame.id)) return null;
  return (
    <div className="run-note run-also" role="status">
      <span>{another ? runWords.anothers : runWords.elsewhere}</span>
      <Button variant="quiet" onClick={() => leaveAlone(frame.id)}>
        {runWords.leaveIt}
      </Button>
    </div>
  );
}

function gone(frame: Frame): string {
  return clockText(Math.floor(cameraSeconds(frame)));
}
