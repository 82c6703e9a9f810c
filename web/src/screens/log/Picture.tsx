import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { forgetPicture, keepPicture, usePicture } from "../../questions/log";
import type { Frame } from "../../state/frames";
import { exchange, sent } from "../../state/outbox";
import { useSession } from "../../state/session";
import { Fault } from "../../ui/Fault";
import { logWords } from "../../words/log";
import { share } from "./share";

/** The small copy, with a way to add or forget it. */
export function Picture({ frame }: { frame: Frame }) {
  const say = logWords.picture;
  const [fault, setFault] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const client = useQueryClient();
  const { signedIn, account } = useSession();
  const picture = usePicture(frame.pictured ? frame.id : null, account);
  // The frame that a picture stands beside has to be in the account before it, and hears of it after.
  const work = async (what: () => Promise<unknown>) => {
    setBusy(true);
    setFault(null);
    try {
      await sent();
      await what();
      await client.invalidateQueries({ queryKey: [`picture ${frame.id}`] });
      exchange();
    } catch (error) {
      setFault(error);
    }
    setBusy(false);
  };
  const add = (file: File | undefined) => {
    if (file) void work(() => keepPicture(frame.id, file));
  };
  const forget = () => void work(() => forgetPicture(frame.id));
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
      <Fault error={fault} />
      {signedIn ? (
        <div className="frame-actions">
          <Form.Label className="btn btn-quiet mb-0" aria-busy={busy}>
            {busy ? logWords.picture.busy : frame.pictured ? say.change : say.add}
            <input
              type="file"
              accept="image/jpeg,.jpg,.jpeg"
              className="visually-hidden"
              data-testid="frame-picture"
              disabled={busy}
              onChange={(event) => {
                add(event.target.files?.[0]);
                event.target.value = "";
              }}
            />
          </Form.Label>
          {frame.pictured && (
            <Button variant="quiet" onClick={forget} disabled={busy}>
              {say.forget}
            </Button>
          )}
        </div>
      ) : (
        <p className="quiet mb-0">{logWords.signInFirst}</p>
      )}
    </div>
  );
}
