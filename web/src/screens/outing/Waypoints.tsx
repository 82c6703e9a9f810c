import { useRef, useState } from "react";
import { Button } from "react-bootstrap";
import type { Schemas } from "../../api/client";
import { useOutingFile } from "../../questions/outingFiles";
import { Fault } from "../../ui/Fault";
import { outingWords } from "../../words/outing";

const MOST_BYTES = 3_000_000;
/** More than these are for the files' own dialog. */
const MOST = 24;

/** Places from a GPX file, each one touch away. */
export function Waypoints({ onTake }: { onTake: (spot: Schemas["SpotAnswer"]) => void }) {
  const say = outingWords.fresh;
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState<string | null>(null);
  const [tooLarge, setTooLarge] = useState(false);
  const open = async (file: File | undefined) => {
    if (!file) return;
    setTooLarge(file.size > MOST_BYTES);
    if (file.size <= MOST_BYTES) setText(await file.text());
  };
  return (
    <div className="fresh-choices fresh-waypoints">
      <input
        ref={input}
        type="file"
        hidden
        accept=".gpx,application/gpx+xml"
        aria-label={say.waypoints}
        onChange={(event) => {
          void open(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
      <Button variant="quiet" onClick={() => input.current?.click()}>
        {say.waypoints}
      </Button>
      {tooLarge && <p className="fault mb-0">{outingWords.files.tooLarge}</p>}
      {text !== null && <Found text={text} onTake={onTake} />}
    </div>
  );
}

function Found({ text, onTake }: { text: string; onTake: (spot: Schemas["SpotAnswer"]) => void }) {
  // A waypoint has no clock: the zone of its place is asked for when it is taken.
  const read = useOutingFile(text, false, "UTC");
  if (read.error) return <Fault error={read.error} again={read.again} />;
  return read.answer?.places.slice(0, MOST).map((spot, at) => (
    <Button key={at} variant="choice" onClick={() => onTake(spot)}>
      {spot.name}
    </Button>
  ));
}
