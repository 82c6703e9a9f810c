import { useMutation } from "@tanstack/react-query";
import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { askPair, type Pair } from "../../questions/measuring";
import { amend } from "../../state/amend";
import type { ItemOf } from "../../state/kit";
import { TimeText } from "../../parts/meter/TimeText";
import { useShutterText } from "../../parts/meter/typedTime";
import { Fault } from "../../ui/Fault";
import { words } from "../../words";
import { bagWords } from "../../words/bag";
import { tenthStops } from "../../words/times";
import { PictureInput } from "../../parts/pictures/PictureInput";
import { FAR_STOPS } from "./ways";

const say = bagWords.measure;
const SETTINGS = ["aperture", "iso"] as const;

/** Strength, cast and corners of a glass from a bare and a filtered frame. */
export function PairPanel({ item, onDone }: { item: ItemOf<"glass">; onDone: () => void }) {
  const [files, setFiles] = useState<Record<string, File[]>>({});
  const [typed, setTyped] = useState<Record<string, string>>({});
  const shutters = {
    bare: useShutterText(),
    filtered: useShutterText(),
  };
  const unread = Object.values(shutters).some((time) => time.text.trim() !== "" && !time.read);
  const pair = useMutation({
    mutationFn: () =>
      askPair({
        bare: files["bare"]?.[0],
        filtered: files["filtered"]?.[0],
        after: files["after"]?.[0],
        bracket: files["bracket"],
        ...typed,
        ...(shutters.bare.read && { bare_shutter: shutters.bare.read.label }),
        ...(shutters.filtered.read && { filtered_shutter: shutters.filtered.read.label }),
      }),
  });
  const field = (name: string, label: string, multiple = false) => (
    <PictureInput
      id={`pair-${name}`}
      label={label}
      multiple={multiple}
      onChange={(chosen) => {
        setFiles({ ...files, [name]: chosen });
        pair.reset();
      }}
    />
  );
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    pair.mutate();
  };
  return (
    <section className="frame-pair" aria-labelledby="pair-title">
      <Form className="stacked" onSubmit={submit}>
        <h2 id="pair-title">{say.pair}</h2>
        <p className="quiet mb-0">{say.pairHint}</p>
        <div className="files-two">
          {field("bare", say.bare)}
          {field("filtered", say.filtered)}
        </div>
        <details>
          <summary>{say.better}</summary>
          <div className="files-two">
            {field("after", say.after)}
            {field("bracket", say.bracket, true)}
          </div>
        </details>
        <details>
          <summary>{say.typed}</summary>
          {(["bare", "filtered"] as const).map((which) => (
            <div key={which} className="pair-typed" role="group" aria-label={say[which]}>
              <TimeText
                id={`pair-${which}-shutter`}
                label={`${say[which]}: ${say.shutter.toLowerCase()}`}
                time={shutters[which]}
              />
              {SETTINGS.map((name) => (
                <Form.Group key={name} controlId={`pair-${which}-${name}`}>
                  <Form.Label>
                    {say[which]}: {say[name].toLowerCase()}
                  </Form.Label>
                  <Form.Control
                    maxLength={24}
                    value={typed[`${which}_${name}`] ?? ""}
                    onChange={(event) => setTyped({ ...typed, [`${which}_${name}`]: event.target.value })}
                  />
                </Form.Group>
              ))}
            </div>
          ))}
        </details>
        <Button
          type="submit"
          variant="signal"
          disabled={!files["bare"]?.[0] || !files["filtered"]?.[0] || unread || pair.isPending}
        >
          {pair.isPending ? say.busy : say.go}
        </Button>
        <Fault error={pair.error} />
      </Form>
      {pair.data && <Found pair={pair.data} item={item} onDone={onDone} />}
    </section>
  );
}

interface FoundProps {
  pair: Pair;
  item: ItemOf<"glass">;
  onDone: () => void;
}

function Found({ pair, item, onDone }: FoundProps) {
  const { stops, cast } = pair;
  if (pair.refused)
    return (
      <div className="pair-found" role="alert">
        <p className="fault">{pair.refused}</p>
        <p className="quiet">{say.blocks(pair.valid_blocks, pair.of_blocks)}</p>
      </div>
    );
  return (
    <div className="pair-found" data-testid="pair-found">
      <p className="pair-strength">{say.strength(stops.g.toFixed(2), Math.max(0.05, pair.sure_within).toFixed(2))}</p>
      <table className="sum">
        <tbody>
          <tr>
            <th scope="row">{say.channels}</th>
            <td>{[stops.r, stops.g, stops.b].map((strength) => strength.toFixed(1)).join(", ")}</td>
          </tr>
          <tr>
            <th scope="row">{say.cast}</th>
            <td>{say.castText(tenthStops(cast.rg), tenthStops(cast.bg))}</td>
          </tr>
          {pair.corner_falloff !== null && (
            <tr>
              <th scope="row">{say.corner}</th>
              <td>{words.staff.stops(tenthStops(pair.corner_falloff))}</td>
            </tr>
          )}
        </tbody>
      </table>
      {pair.advice.map((remark) => (
        <p key={remark} className="mb-0">
          {remark}
        </p>
      ))}
      <p className="quiet mb-0">{say.castNote}</p>
      <StrengthMap map={pair.map} />
      <p className="quiet mb-0">{say.blocks(pair.valid_blocks, pair.of_blocks)}</p>
      <KeepPair pair={pair} item={item} onDone={onDone} />
    </div>
  );
}

/** Strength over the picture: corners that are denser, or the cross of a variable glass. */
function StrengthMap({ map }: { map: (number | null)[][] }) {
  const all = map.flat().filter((cell) => cell !== null);
  if (all.length === 0) return null;
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const span = Math.max(high - low, 0.2);
  return (
    <figure className="pair-map">
      <svg
        viewBox={`0 0 ${map[0]?.length ?? 1} ${map.length}`}
        role="img"
        aria-label={`${say.map}. ${say.mapText(low.toFixed(1), high.toFixed(1))}`}
      >
        {map.flatMap((line, y) =>
          line.map((cell, x) => (
            <rect
              key={`${x}-${y}`}
              x={x}
              y={y}
              width="1.02"
              height="1.02"
              className={cell === null ? "map-none" : "map-block"}
              style={cell === null ? undefined : { fillOpacity: 0.08 + (0.87 * (cell - low)) / span }}
            />
          )),
        )}
      </svg>
      <figcaption className="quiet">
        {say.map}. {say.mapText(low.toFixed(1), high.toFixed(1))}
      </figcaption>
    </figure>
  );
}

/** Offer the strength as evidence; nothing is kept unless asked. */
function KeepPair({ pair, item, onDone }: FoundProps) {
  const keep = async () => {
    const pair_stops = [...item.facts.pair_stops, Math.round(pair.stops.g * 100) / 100].slice(-12);
    const cast = say.castText(tenthStops(pair.cast.rg), tenthStops(pair.cast.bg));
    const facts = {
      pair_stops,
      cast,
      cast_mired: Math.round(pair.cast.mired),
      cast_green: Math.round(pair.green * 10) / 10,
      ...(pair.corner_falloff !== null && { corner_stops: Math.round(pair.corner_falloff * 10) / 10 }),
    };
    await amend(item, facts, say.kept(item.name, pair.stops.g.toFixed(2)));
    onDone();
  };
  const far = Math.abs(pair.stops.g - item.facts.stops) > FAR_STOPS;
  return (
    <div className="pair-keep">
      {far && <p className="fault mb-0">{bagWords.measuring.far}</p>}
      <Button variant="signal" onClick={() => void keep()}>
        {say.keep}
      </Button>
    </div>
  );
}
