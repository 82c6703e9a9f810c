import { useRef, useState } from "react";
import { Button } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import type { Schemas } from "../../api/client";
import type { Light, Swaps } from "../../questions/light";
import { askCalendar, askGpx, useOutingFile } from "../../questions/outingFiles";
import { change, type Outing, span } from "../../state/outings";
import { Fault } from "../../ui/Fault";
import { faultText } from "../../ui/faultText";
import { saveAs } from "../../ui/saveAs";
import { say as toast } from "../../ui/say";
import { words } from "../../words";
import { bagWords } from "../../words/bag";
import { clockIn } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { roughTime } from "../../words/times";
import { dateIn, wallTime } from "../../words/zone";

interface Props {
  outing: Outing;
  keep: (outing: Outing) => void;
  light: Light | undefined;
  swaps: Swaps | undefined;
  leaveBy: number | null;
  /** Whether light, glass and water are all worked out: a calendar of half a plan would miss the time to leave. */
  ready: boolean;
  nameOf: (id: string) => string;
}

const LARGEST = 3_000_000;

/** Places as GPX and plans as a calendar, in and out. */
export function Files({ outing, keep, light, swaps, leaveBy, ready, nameOf }: Props) {
  const say = outingWords.files;
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<{ name: string; text: string } | null>(null);
  const open = async (chosen: File | undefined) => {
    if (!chosen) return;
    if (chosen.size > LARGEST) toast({ text: say.tooLarge });
    else setFile({ name: chosen.name, text: await chosen.text() });
  };
  const places = async () => {
    const { name, latitude, longitude } = outing;
    const body = { places: [{ name: name || outingWords.title, latitude, longitude, sort: "waypoint" as const }] };
    saveAs("jackstaff-places.gpx", await askGpx(body));
  };
  const calendar = async () => {
    const entries = entriesOf({ outing, light, swaps, leaveBy, nameOf });
    const body = { name: outing.name || outingWords.title, entries };
    saveAs("jackstaff-outing.ics", await askCalendar(body));
  };
  return (
    <div className="outing-files" role="group" aria-label={say.title}>
      <input
        ref={input}
        type="file"
        hidden
        accept=".gpx,.ics,application/gpx+xml,text/calendar"
        data-testid="outing-file"
        onChange={(event) => {
          void open(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
      <Button variant="quiet" size="sm" className="wide" onClick={() => input.current?.click()}>
        {say.open}
      </Button>
      <Button variant="quiet" size="sm" onClick={() => tried(places())}>
        {say.gpx}
      </Button>
      <Button variant="quiet" size="sm" disabled={!ready} onClick={() => tried(calendar())}>
        {say.calendar}
      </Button>
      {file && <FromFile file={file} outing={outing} keep={keep} onClose={() => setFile(null)} />}
    </div>
  );
}

/** What did not come about is said. */
function tried(work: Promise<void>): void {
  work.catch((error: unknown) => toast({ text: faultText(error) }));
}

/** What stands in a file, read whole or refused; taking one thing of it is the person's choice. */
function FromFile(props: {
  file: { name: string; text: string };
  outing: Outing;
  keep: (outing: Outing) => void;
  onClose: () => void;
}) {
  const { file, outing, keep, onClose } = props;
  const say = outingWords.files;
  const calendar = file.text.trimStart().startsWith("BEGIN:") || file.name.endsWith(".ics");
  const read = useOutingFile(file.text, calendar, outing.zone);
  const takePlace = (spot: Schemas["SpotAnswer"]) => {
    const undo = change(outing, { name: spot.name, latitude: spot.latitude, longitude: spot.longitude });
    toast({ text: say.takenPlace(spot.name), action: { label: bagWords.undo, act: undo } });
    onClose();
  };
  const takeEntry = (entry: Schemas["EntryAnswer"]) => {
    const start = Date.parse(entry.start);
    keep({
      ...outing,
      id: crypto.randomUUID(),
      name: entry.title.slice(0, 60),
      date: dateIn(start, outing.zone),
      arrive: wallTime(start, outing.zone),
      turn_back: wallTime(Date.parse(entry.end), outing.zone),
      ...(entry.latitude != null && entry.longitude != null
        ? { latitude: entry.latitude, longitude: entry.longitude }
        : {}),
      readings: [],
      packed: [],
    });
    toast({ text: say.takenEntry(entry.title) });
    onClose();
  };
  return (
    <Modal show onHide={onClose} centered scrollable aria-labelledby="outing-file-title">
      <Modal.Header closeButton closeLabel={words.entry.cancel}>
        <Modal.Title id="outing-file-title">{calendar ? say.entries : say.places}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        <p className="quiet mb-0">{say.from(file.name)}</p>
        {read.error && (
          <div>
            <p className="fault">{say.refused}</p>
            <Fault error={read.error} again={read.again} />
          </div>
        )}
        <ul className="plain-list file-rows">
          {read.answer?.places.map((spot, at) => (
            <li key={at}>
              <span>
                <strong>{spot.name}</strong>{" "}
                <span className="quiet">
                  {spot.latitude.toFixed(4)}, {spot.longitude.toFixed(4)}
                </span>
              </span>
              <Button variant="quiet" aria-label={`${say.take}: ${spot.name}`} onClick={() => takePlace(spot)}>
                {say.take}
              </Button>
            </li>
          ))}
          {read.answer?.entries.map((entry, at) => (
            <li key={at}>
              <span>
                <strong>{entry.title}</strong>{" "}
                <span className="quiet">
                  {dateIn(Date.parse(entry.start), outing.zone)} {clockIn(Date.parse(entry.start), outing.zone)}
                </span>
              </span>
              <Button variant="quiet" aria-label={`${say.take}: ${entry.title}`} onClick={() => takeEntry(entry)}>
                {say.take}
              </Button>
            </li>
          ))}
        </ul>
      </Modal.Body>
    </Modal>
  );
}

/** The plan as calendar entries: the outing itself, its light, its swaps and the time to leave with an alarm. */
function entriesOf({ outing, light, swaps, leaveBy, nameOf }: Omit<Props, "keep" | "ready">): Schemas["EntryInput"][] {
  const say = outingWords;
  const [from, back] = span(outing);
  const to = Math.max(from, Math.min(back, leaveBy ?? back));
  const { latitude, longitude } = outing;
  const entry = (title: string, start: number, end: number, more: Partial<Schemas["EntryInput"]> = {}) => ({
    title: title.slice(0, 200),
    start: new Date(start).toISOString(),
    end: new Date(end).toISOString(),
    note: "",
    latitude,
    longitude,
    ...more,
  });
  const events = (light?.events ?? []).flatMap((event) =>
    event.at == null ? [] : [entry(words.events[event.name] ?? event.name, Date.parse(event.at), Date.parse(event.at))],
  );
  const stretches = (swaps?.stretches ?? []).map((stretch) => {
    const glass = stretch.glass ? stretch.glass.map(nameOf).join(" + ") || words.bare : say.files.noStack;
    const set = stretch.glass ? `, f/${stretch.aperture}, ISO ${stretch.iso}` : "";
    const times =
      stretch.first_seconds != null && stretch.last_seconds != null
        ? say.times(roughTime(stretch.first_seconds), roughTime(stretch.last_seconds))
        : "";
    return entry(say.files.swap(glass + set), Date.parse(stretch.start), Date.parse(stretch.end), { note: times });
  });
  return [
    entry(say.files.outing(outing.name || say.title), from, to, { note: say.caution }),
    ...events,
    ...stretches,
    ...(leaveBy === null ? [] : [entry(say.files.leave, leaveBy, leaveBy, { note: say.caution, alarm_minutes: 10 })]),
  ];
}
