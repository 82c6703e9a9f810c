import { useEffect, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Modal, ProgressBar } from "../../ui/opened";
import { useLocation } from "wouter";
import type { Schemas } from "../../api/client";
import { askFramesBetween, keepPicture } from "../../questions/log";
import { askJoin, askPhoto, type Joining } from "../../questions/measuring";
import { keepFacts } from "../../state/amend";
import { itemsOf } from "../../state/bag";
import { type Laid, useBench } from "../../state/bench";
import { addFrame, type Frame } from "../../state/frames";
import { useKit } from "../../state/kit";
import { exchange, sent } from "../../state/outbox";
import { staying, useSession } from "../../state/session";
import { faultText } from "../../ui/faultText";
import { say as toast } from "../../ui/say";
import { words } from "../../words";
import { logWords } from "../../words/log";
import { actualTime, timeText } from "../../words/times";
import { whenText } from "./frameText";
import { madeFrame } from "./madeFrame";

type Photo = Omit<Schemas["PhotoReadAnswer"], "digest">;
type Read = { file: File } & ({ photo: Photo } | { fault: string });

const say = logWords.join;
/** Camera clocks may be a zone away: frames from this far around the files are looked at [ms]. */
const AROUND = 16 * 3600_000;
const NEW = "new";
const LEAVE = "";

/** JPEGs from the card find their frames; what is not certain is asked. */
export function JoinPictures(props: { files: File[]; onClose: () => void }) {
  const [laid] = useBench();
  return laid && <Joiner laid={laid} {...props} />;
}

function Joiner({ laid, files, onClose }: { laid: Laid; files: File[]; onClose: () => void }) {
  const { signedIn } = useSession();
  const [, navigate] = useLocation();
  const [read, setRead] = useState<Read[]>([]);
  const [frames, setFrames] = useState<Frame[]>([]);
  const [joining, setJoining] = useState<Joining | null>(null);
  const [chosen, setChosen] = useState<Record<number, string>>({});
  const [remember, setRemember] = useState(true);
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  // What is there already when the rest has to be tried once more: new frames by their picture's place, and pictures.
  const [there] = useState({ frames: new Map<number, string>(), pictures: new Set<string>() });
  const kit = useKit();
  const bodies = itemsOf(kit.items, "body");
  const body =
    bodies.find((owned) => read.some((each) => "photo" in each && each.photo.body === owned.name)) ?? laid.body;

  // The clock as the kit knew it when the files were chosen: what is learnt here does not start it all again.
  const [ahead] = useState(laid.body?.facts.clock_ahead_s ?? null);

  useEffect(() => {
    const stopped = new AbortController();
    const start = async () => {
      const found: Read[] = [];
      for (const file of files.slice(0, 100)) {
        found.push(await readOne(file, stopped.signal));
        if (stopped.signal.aborted) return;
        setRead([...found]);
      }
      const near = await framesAround(found);
      setFrames(near);
      setJoining(await join(found, near, ahead));
    };
    if (signedIn) void start().catch((error: unknown) => setFault(faultText(error)));
    return () => stopped.abort();
  }, [files, signedIn, ahead]);

  const answers = (joining?.files ?? []).map(
    (file, at) => chosen[at] ?? (file.frames.length === 1 ? file.frames[0] : NEW),
  );
  const keeping = read.filter((picture, at) => "photo" in picture && answers[at] !== LEAVE).length;
  const again = async (ahead: number) => setJoining(await join(read, frames, ahead, joining ?? undefined));
  const keep = async () => {
    if (!joining) return;
    setBusy(true);
    let saved = 0;
    let first: string | null = null;
    const here = staying();
    try {
      for (const [at, picture] of read.entries()) {
        const to = answers[at];
        if (!("photo" in picture) || !to) continue;
        const id = to === NEW ? await fresh(at, picture.photo, joining.ahead_seconds ?? 0, here) : to;
        here();
        if (!there.pictures.has(`${at} ${id}`)) await keepPicture(id, picture.file);
        there.pictures.add(`${at} ${id}`);
        saved += 1;
        first ??= id;
      }
      here();
      if (remember && body && joining.learnt && joining.ahead_seconds !== null) {
        await keepFacts(body, { clock_ahead_s: joining.ahead_seconds });
      }
      const page = first === null ? null : `/log/frame/${first}`;
      toast({
        text: say.kept(saved),
        ...(page !== null && { action: { label: say.judge, act: () => navigate(page) } }),
      });
      onClose();
    } catch (error) {
      setFault(faultText(error));
    }
    setBusy(false);
    exchange();
  };
  const fresh = async (at: number, photo: Photo, ahead: number, here: () => void): Promise<string> => {
    const made = there.frames.get(at);
    if (made !== undefined) return made;
    const shown = clockOf(photo, read);
    const taken = shown === null ? new Date() : new Date(Date.parse(shown) - ahead * 1000);
    const frame = await madeFrame(
      {
        openedAt: taken,
        seconds: photo.seconds ?? 1,
        shutter: "",
        aperture: photo.aperture ?? laid.bench.aperture,
        iso: photo.speed ?? laid.bench.iso,
        glass: [],
      },
      laid,
    );
    here();
    await addFrame(frame);
    there.frames.set(at, frame.id);
    // The picture is kept beside it, so it has to be in the account first.
    await sent();
    return frame.id;
  };
  return (
    <Modal show onHide={onClose} centered scrollable size="lg" aria-labelledby="join-title">
      <Modal.Header closeButton closeLabel={words.entry.cancel}>
        <Modal.Title id="join-title">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        {!signedIn && <p className="fault">{logWords.signInFirst}</p>}
        {signedIn && !joining && !fault && (
          <>
            <p className="mb-0">{say.reading(read.length, files.length)}</p>
            <ProgressBar now={read.length} max={files.length} aria-label={say.title} />
          </>
        )}
        {joining && <ClockLine joining={joining} onTake={(ahead) => void again(ahead)} />}
        {joining && (
          <table className="sum join-files">
            <thead>
              <tr>
                <th scope="col">{say.file}</th>
                <th scope="col">{say.frame}</th>
              </tr>
            </thead>
            <tbody>
              {read.map((picture, at) => (
                <tr key={picture.file.name + String(at)}>
                  <th scope="row">
                    {picture.file.name}
                    <span className="quiet">{"photo" in picture ? photoText(picture.photo) : picture.fault}</span>
                  </th>
                  <td>
                    {"photo" in picture && (
                      <Form.Select
                        aria-label={`${say.frame}: ${picture.file.name}`}
                        value={answers[at] ?? NEW}
                        onChange={(event) => setChosen({ ...chosen, [at]: event.target.value })}
                      >
                        {(joining.files[at]?.frames ?? []).map((id) => (
                          <option key={id} value={id}>
                            {optionText(frames.find((frame) => frame.id === id))}
                          </option>
                        ))}
                        <option value={NEW}>{say.fresh}</option>
                        <option value={LEAVE}>{say.leave}</option>
                      </Form.Select>
                    )}
                    {(joining.files[at]?.frames.length ?? 0) > 1 && <span className="fault">{say.ask}</span>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {joining?.learnt && body && (
          <Form.Check
            id="join-remember"
            label={say.remember(body.name)}
            checked={remember}
            onChange={(event) => setRemember(event.target.checked)}
          />
        )}
        {fault && (
          <p className="fault" role="alert">
            {fault}
          </p>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {joining ? words.entry.cancel : say.stop}
        </Button>
        <Button variant="signal" disabled={!joining || keeping === 0 || busy} onClick={() => void keep()}>
          {busy ? logWords.picture.busy : say.keep(keeping)}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

/** What the camera's clock is taken to be; asked where several would fit. */
function ClockLine({ joining, onTake }: { joining: Joining; onTake: (ahead: number) => void }) {
  const ahead = joining.ahead_seconds;
  if (ahead === null) return <p className="mb-0">{say.clockUnknown}</p>;
  const offsetText = (seconds: number) =>
    seconds >= 0 ? say.clock(timeText(Math.max(seconds, 0.3))) : say.clockBehind(timeText(-seconds));
  return (
    <>
      <p className="mb-0">{offsetText(ahead)}</p>
      {joining.others.length > 0 && (
        <Form.Group controlId="join-clock">
          <Form.Label className="fault">{say.clockAsk}</Form.Label>
          <Form.Select value={ahead} onChange={(event) => onTake(Number(event.target.value))}>
            {[ahead, ...joining.others].map((seconds) => (
              <option key={seconds} value={seconds}>
                {offsetText(seconds)}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      )}
    </>
  );
}

async function readOne(file: File, signal: AbortSignal): Promise<Read> {
  try {
    return { file, photo: await askPhoto(file, signal) };
  } catch (error) {
    return { file, fault: faultText(error) };
  }
}

async function framesAround(read: Read[]): Promise<Frame[]> {
  const times = read.flatMap((picture) =>
    "photo" in picture
      ? [clockOf(picture.photo, read)].flatMap((clock) => (clock === null ? [] : [Date.parse(clock)]))
      : [],
  );
  if (times.length === 0) return [];
  const since = new Date(Math.min(...times) - AROUND).toISOString();
  const until = new Date(Math.max(...times) + AROUND).toISOString();
  const frames = await askFramesBetween(since, until);
  return frames.filter((frame) => (frame.actual_seconds ?? 0) > 0);
}

async function join(read: Read[], frames: Frame[], ahead: number | null, before?: Joining): Promise<Joining> {
  const files = read.map((picture) =>
    "photo" in picture
      ? { taken_at: clockOf(picture.photo, read)?.replace(/Z$/, "") ?? null, seconds: picture.photo.seconds }
      : { taken_at: null, seconds: null },
  );
  const candidates = frames.map(({ id, opened_at, actual_seconds }) => ({
    id,
    opened_at,
    seconds: actual_seconds ?? 1,
  }));
  const found = await askJoin({ files, frames: candidates, ahead_seconds: ahead });
  if (!before) return found;
  // A clock that was picked among several is as good as learnt; the others stay to choose from.
  const all = [before.ahead_seconds, ...before.others].filter((seconds) => seconds !== null && seconds !== ahead);
  return { ...found, learnt: true, others: all as number[] };
}

function photoText(photo: Photo): string {
  if (photo.seconds === null) return say.noExposure;
  const parts = [timeText(photo.seconds), photo.aperture && `f/${photo.aperture}`, photo.speed && `ISO ${photo.speed}`];
  return parts.filter(Boolean).join(" ");
}

function optionText(frame: Frame | undefined): string {
  if (!frame) return "";
  return `${whenText(frame)}, ${actualTime(frame)}`;
}

/** What a camera's clock showed: by its own zone where every one of the pictures says it, else as if it showed UTC. */
function clockOf({ taken_at, utc_offset_minutes }: Photo, read: Read[]): string | null {
  if (taken_at == null) return null;
  const zoned = read.every((picture) => !("photo" in picture) || picture.photo.utc_offset_minutes != null);
  if (!zoned || utc_offset_minutes == null) return `${taken_at}Z`;
  const [hours, minutes] = [Math.floor(Math.abs(utc_offset_minutes) / 60), Math.abs(utc_offset_minutes) % 60];
  const two = (part: number) => String(part).padStart(2, "0");
  return `${taken_at}${utc_offset_minutes < 0 ? "-" : "+"}${two(hours)}:${two(minutes)}`;
}
