import { useState } from "react";
import { Form } from "react-bootstrap";
import { Modal, Tab, Tabs } from "../../ui/opened";
import { TimeText } from "../../parts/meter/TimeText";
import { useWatchText } from "../../parts/meter/typedTime";
import { type Exposure, useUsable } from "../../questions/bench";
import { useFlash, usePairs, useReach, useTrade, useVideo } from "../../questions/extras";
import { endsById, readingOf, usableOf } from "../../state/asks";
import { type Bench, type Laid, settingsOf } from "../../state/bench";
import { NumberField } from "../../ui/NumberField";
import { typed } from "../../ui/typed";
import { words } from "../../words";
import { dialogWords } from "../../words/dialogs";
import { markText, sumTime, timeText } from "../../words/times";
import { bareOf, pairsOf, rememberedOf } from "./asks";
import { Answered } from "./ExtraParts";
import { Graduated } from "./Graduated";
import { TestShot } from "./TestShot";
import { TrialTab } from "./TrialTab";

interface Props {
  laid: Laid;
  answer: Exposure | undefined;
  set: (change: Partial<Bench>) => void;
  onClose: () => void;
}

/** What is wanted now and then: folded away until asked for. */
export function Extras({ laid, answer: summed, set, onClose }: Props) {
  return (
    <Modal show onHide={onClose} centered size="lg" scrollable aria-labelledby="extras-title" className="extras">
      <Modal.Header closeButton closeLabel={words.close}>
        <Modal.Title id="extras-title">{dialogWords.extras.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <Tabs defaultActiveKey="graduated" id="extras" mountOnEnter unmountOnExit>
          <Tab eventKey="graduated" title={dialogWords.extras.tabs.graduated}>
            <Graduated laid={laid} />
          </Tab>
          <Tab eventKey="shot" title={dialogWords.extras.tabs.shot}>
            <TestShot laid={laid} set={set} onClose={onClose} />
          </Tab>
          <Tab eventKey="trade" title={dialogWords.extras.tabs.trade}>
            {summed && <Trade laid={laid} summed={summed} />}
          </Tab>
          <Tab eventKey="flash" title={dialogWords.extras.tabs.flash}>
            <Flash laid={laid} />
          </Tab>
          <Tab eventKey="video" title={dialogWords.extras.tabs.video}>
            <Video laid={laid} />
          </Tab>
          <Tab eventKey="trial" title={dialogWords.extras.tabs.trial}>
            {summed && <TrialTab laid={laid} summed={summed} />}
          </Tab>
          <Tab eventKey="pair" title={dialogWords.extras.tabs.pair}>
            <Pair laid={laid} />
          </Tab>
        </Tabs>
      </Modal.Body>
    </Modal>
  );
}

function Trade({ laid, summed }: { laid: Laid; summed: Exposure }) {
  const [focus, setFocus] = useState("");
  const [near, setNear] = useState("");
  const [far, setFar] = useState("");
  const say = dialogWords.extras.trade;
  const question = {
    seconds: summed.seconds,
    f_number: Number(settingsOf(laid).aperture),
    focal_mm: laid.focalMm ?? 50,
    widest: laid.lens?.facts.aperture_widest ?? 2.8,
    smallest: laid.lens?.facts.aperture_smallest ?? 22,
    pitch_um: laid.body?.facts.pitch_um ?? 4.35,
    sensor_width_mm: laid.body?.facts.sensor_width_mm ?? 36,
    sensor_height_mm: laid.body?.facts.sensor_height_mm ?? 24,
    focus_m: typed(focus) ?? null,
    nearest_m: typed(near) ?? null,
    farthest_m: typed(far) ?? null,
  };
  const traded = useTrade(question);
  return (
    <div className="extra">
      <p>{say.intro}</p>
      <div className="thirds">
        <NumberField id="trade-focus" label={say.focus} value={focus} onChange={setFocus} />
        <NumberField id="trade-near" label={say.nearest} value={near} onChange={setNear} />
        <NumberField id="trade-far" label={say.farthest} value={far} onChange={setFar} />
      </div>
      <Answered reply={traded}>
        {traded.shown?.third_in_m != null && <p>{say.third(metres(traded.shown.third_in_m))}</p>}
        <table className="sum trade">
          <thead>
            <tr>
              {[say.aperture, say.time, say.near, say.far, say.hyperfocal, say.detail].map((head) => (
                <th key={head} scope="col">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {traded.shown?.rows.map((row) => (
              <tr key={row.aperture} aria-current={row.aperture === settingsOf(laid).aperture || undefined}>
                <th scope="row">f/{row.aperture}</th>
                <td>{sumTime(row.seconds, laid.dialLimit)}</td>
                <td>{metres(row.near_m)}</td>
                <td>{row.far_m == null ? say.infinity : metres(row.far_m)}</td>
                <td>{metres(row.hyperfocal_m)}</td>
                <td>{say.sharpness[row.sharpness]}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Answered>
    </div>
  );
}

function metres(value: number): string {
  return value < 10
    ? `${value.toPrecision(2)} m`
    : value < 1000
      ? `${Math.round(value)} m`
      : `${(value / 1000).toPrecision(2)} km`;
}

function Flash({ laid }: { laid: Laid }) {
  const [wide, setWide] = useState(String(laid.lens?.facts.aperture_widest ?? 2.8));
  const say = dialogWords.extras.flash;
  const sync = laid.body?.facts.sync_s ?? 0.005;
  const question = { reading: readingOf(laid), wide, sync_seconds: sync };
  const flash = useFlash(wide.trim() !== "" && laid.bench.meter === "camera" ? question : null);
  return (
    <div className="extra">
      <p>{say.intro}</p>
      <NumberField id="flash-wide" label={say.wide} value={wide} onChange={setWide} />
      <p className="quiet">{say.sync(timeText(sync))}</p>
      <Answered reply={flash}>
        {flash.shown && (
          <>
            <p>{say.asks(timeText(flash.shown.wide_seconds))}</p>
            <p className="extra-answer">
              {flash.shown.stops < 0.05 ? say.none : say.stops(flash.shown.stops.toFixed(1))}
            </p>
            {flash.shown.stops >= 0.05 && <p>{say.power(flash.shown.flash_stops.toFixed(1))}</p>}
          </>
        )}
      </Answered>
    </div>
  );
}

function Video({ laid }: { laid: Laid }) {
  const variable = laid.bag.filter((glass) => glass.kind === "variable");
  const turning = usableOf(laid);
  const usable = useUsable(turning).answer;
  const ends = endsById(laid, usable?.ends);
  const known = turning === null || usable !== undefined;
  const [id, setId] = useState(variable[0]?.id ?? "");
  const glass = variable.find((piece) => piece.id === id);
  const [setting, setSetting] = useState(glass ? glass.stops.toFixed(1) : "");
  const [change, setChange] = useState("1");
  const say = dialogWords.extras.video;
  const [now, by] = [typed(setting), typed(change)];
  const question =
    known && glass && now !== undefined && by !== undefined
      ? {
          setting_stops: now,
          change_stops: by,
          weak_end: glass.low,
          usable_end: Math.min(ends[glass.id] ?? glass.high, glass.high),
        }
      : null;
  const held = useVideo(question);
  if (!glass) return <p className="extra">{say.none}</p>;
  return (
    <div className="extra">
      <p>{say.intro}</p>
      <div className="thirds">
        <Form.Group controlId="video-glass">
          <Form.Label>{say.glass}</Form.Label>
          <Form.Select value={id} onChange={(event) => setId(event.target.value)}>
            {variable.map((piece) => (
              <option key={piece.id} value={piece.id}>
                {piece.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <NumberField id="video-now" label={say.setting} value={setting} onChange={setSetting} />
        <NumberField id="video-change" label={say.change} value={change} onChange={setChange} />
      </div>
      <Answered reply={held}>
        {held.shown && (
          <>
            <p className="extra-answer">
              {held.shown.held
                ? say.held(held.shown.turn_to.toFixed(1))
                : say.short[held.shown.side ?? "dense"]?.(held.shown.short_stops.toFixed(1))}
            </p>
            <p>{say.room(held.shown.room_brighter.toFixed(1), held.shown.room_darker.toFixed(1))}</p>
          </>
        )}
      </Answered>
    </div>
  );
}

function Pair({ laid }: { laid: Laid }) {
  const wanted = useWatchText(timeText(120));
  const target = wanted.read?.seconds ?? null;
  const say = dialogWords.extras.pair;
  const remembered = rememberedOf(laid);
  const { aperture, iso } = settingsOf(laid);
  const pairs = usePairs(target === null ? [] : pairsOf(laid, target));
  const reach = useReach(bareOf(laid)).answer;
  return (
    <div className="extra">
      <p>{say.intro}</p>
      <TimeText id="pair-time" label={say.time} time={wanted} />
      <Answered reply={pairs}>
        <ul className="plain-list">
          {remembered.map((piece, at) => {
            const found = pairs.answer?.[at];
            const mark = found?.nearest.toSorted((a, b) => Math.abs(a.cost_stops) - Math.abs(b.cost_stops))[0]?.mark;
            return found && target !== null ? (
              <li key={piece.id}>
                {say.when(
                  piece.name ?? `${say.stack} (${laid.stack.map((glass) => glass.name).join(" + ")})`,
                  mark ? readingText(mark) : timeText(found.value),
                  `f/${aperture}, ISO ${iso}`,
                  sumTime(target, laid.dialLimit),
                )}
              </li>
            ) : null;
          })}
        </ul>
        {reach && <p>{say.bare(timeText(reach.longest_bare_seconds))}</p>}
      </Answered>
    </div>
  );
}

/** A mark that nobody can read two ways: 1/4 s or 4 s, never a bare 4. */
function readingText(mark: string): string {
  const text = markText(mark);
  return text.endsWith("s") ? text : `${text} s`;
}
