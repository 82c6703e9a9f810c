import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Histogram } from "../../parts/Histogram";
import { askPhoto, type Photo } from "../../questions/measuring";
import { type Bench, type Laid, MOST_THIRDS } from "../../state/bench";
import { Fault } from "../../ui/Fault";
import { dialogWords } from "../../words/dialogs";
import { signedThirds, sumTime } from "../../words/times";

const say = dialogWords.extras.shot;
const CHANNELS = ["red", "green", "blue"] as const;

interface Props {
  laid: Laid;
  set: (change: Partial<Bench>) => void;
  onClose: () => void;
}

/** A JPEG of the bare scene: how its tones lie, and how far the frame may go to the right before they burn. */
export function TestShot({ laid, set, onClose }: Props) {
  const [file, setFile] = useState<File | null>(null);
  const read = useMutation({ mutationFn: (picture: File) => askPhoto(picture, new AbortController().signal) });
  const take = (files: FileList | null) => {
    const picture = files?.[0];
    if (!picture) return;
    setFile(picture);
    read.mutate(picture);
  };
  const { headroom, digest } = read.data ?? {};
  const reading = readingOf(read.data, laid);
  const thirds = Math.min(MOST_THIRDS, headroom?.thirds ?? 0);
  return (
    <div className="extra">
      <p>{say.intro}</p>
      <Form.Group controlId="test-shot">
        <Form.Label>{say.file}</Form.Label>
        <Form.Control
          type="file"
          accept="image/jpeg"
          onChange={(event) => take((event.target as HTMLInputElement).files)}
        />
      </Form.Group>
      <Fault error={read.error} again={() => file && read.mutate(file)} />
      {read.isPending && <p role="status">{say.busy}</p>}
      {headroom && digest && (
        <div aria-live="polite">
          <Histogram digest={digest} />
          <p className="extra-answer">{headroom.text}</p>
          <p>{say.clipped(CHANNELS.map((name, at) => [name, percent(headroom.burnt[at] ?? 0)]))}</p>
          {thirds > 0 && (
            <Button
              variant="signal"
              onClick={() => {
                set({ purposeThirds: thirds });
                onClose();
              }}
            >
              {say.take(signedThirds(thirds / 3))}
            </Button>
          )}
          {reading && (
            <Button
              variant="quiet"
              onClick={() => {
                set({ meter: "camera", ...reading });
                onClose();
              }}
            >
              {say.reading([reading.shutter, `f/${reading.aperture}`, `ISO ${reading.iso}`].join(", "))}
            </Button>
          )}
          {laid.through.length > 0 && <p>{say.filtersOn}</p>}
          <p className="quiet mb-0">{say.estimate}</p>
        </div>
      )}
    </div>
  );
}

/** What the picture says it was taken with, as a reading; null where it says less than that. */
function readingOf(photo: Photo | undefined, laid: Laid): Pick<Bench, "shutter" | "aperture" | "iso"> | null {
  if (photo?.seconds == null || photo.aperture == null || photo.speed == null || photo.seconds <= 0) return null;
  return { shutter: sumTime(photo.seconds, laid.dialLimit), aperture: photo.aperture, iso: photo.speed };
}

function percent(share: number): string {
  return `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`;
}
