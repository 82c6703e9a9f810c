import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { answer, api, Refused } from "../../api/client";
import { useSession } from "../../state/session";
import { words } from "../../words";
import type { Frame } from "../../state/frames";
import { keepPicture, share, usePicture } from "../../questions/pictures";

/** The small copy, with a way to add or forget it. */
export function Picture({ frame }: { frame: Frame }) {
  const say = words.log.picture;
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const client = useQueryClient();
  const signedIn = useSession().data?.signed_in === true;
  const picture = usePicture(frame).data;
  const again = () => client.invalidateQueries({ queryKey: ["frames"] });
  const add = async (file: File | undefined) => {
    if (!file) return;
    setBusy(true);
    setFault(null);
    try {
      client.setQueryData(["frames", "picture", frame.id], await keepPicture(frame.id, file));
      await again();
    } catch (error) {
      setFault(error instanceof Refused ? error.message : words.trouble.unreachable);
    }
    setBusy(false);
  };
  const forget = async () => {
    await answer(api.DELETE("/api/frames/{key}/picture", { params: { path: { key: frame.id } } }));
    client.removeQueries({ queryKey: ["frames", "picture", frame.id] });
    await again();
  };
  const [red = 0, green = 0, blue = 0] = picture?.clipped ?? [];
  return (
    <div className="picture">
      {picture && frame.pictured && (
        <figure>
          <span className="photo">
            <img src={`data:image/jpeg;base64,${picture.small}`} alt={say.alt} />
          </span>
          <figcaption className="quiet">
            {say.clipped(share(red), share(green), share(blue))} {say.kept}
          </figcaption>
        </figure>
      )}
      {fault && (
        <p className="fault" role="alert">
          {fault}
        </p>
      )}
      {signedIn ? (
        <div className="frame-actions">
          <Form.Label className="btn btn-quiet mb-0" aria-busy={busy}>
            {busy ? words.log.measure.busy : frame.pictured ? say.change : say.add}
            <input
              type="file"
              accept="image/jpeg,.jpg,.jpeg"
              className="visually-hidden"
              data-testid="frame-picture"
              disabled={busy}
              onChange={(event) => {
                void add(event.target.files?.[0]);
                event.target.value = "";
              }}
            />
          </Form.Label>
          {frame.pictured && (
            <Button variant="quiet" onClick={() => void forget()}>
              {say.forget}
            </Button>
          )}
        </div>
      ) : (
        <p className="quiet mb-0">{words.log.signInFirst}</p>
      )}
    </div>
  );
}
