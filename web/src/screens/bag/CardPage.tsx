import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useLadders } from "../../questions/bench";
import { useFieldCard } from "../../questions/log";
import { useBench } from "../../state/bench";
import { itemsOf } from "../../state/bag";
import { useKit } from "../../state/kit";
import { handOn } from "../../ui/handOn";
import { Fault } from "../../ui/Fault";
import { words } from "../../words";
import { bagWords } from "../../words/bag";
import { signedStops } from "../../words/times";

const say = bagWords.card;
const MOST = 8;

/** This body's times down, these glasses as measured across: to print and take along. */
export function CardPage() {
  const [laid] = useBench();
  const solids = itemsOf(useKit().items, "glass").filter((piece) => piece.facts.kind === "solid");
  const [left, setLeft] = useState<string[]>([]);
  const [span, setSpan] = useState({ fastest: 1 / 512, slowest: 1 });
  const step = laid?.step ?? "third";
  const ladders = useLadders(step, laid?.dialLimit ?? 30);
  const shown = solids.filter((solid) => !left.includes(solid.id)).slice(0, MOST);
  const question = {
    glass: shown.map((column) => ({
      name: column.name,
      stops: Math.max(0, column.strength.stops + (column.strength.offset ?? 0)),
    })),
    ...span,
    dial_limit: laid?.dialLimit ?? 30,
    step,
  };
  const card = useFieldCard(question.glass.length > 0 && laid !== null ? question : null);
  const marks = ladders?.shutter.filter((mark) => mark.exact <= 32) ?? [];
  const end = (name: "fastest" | "slowest", label: string) => (
    <Form.Group controlId={`card-${name}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Select
        value={marks.find((mark) => Math.abs(Math.log2(mark.exact / span[name])) < 0.1)?.exact ?? ""}
        onChange={(event) => setSpan({ ...span, [name]: Number(event.target.value) })}
      >
        {marks.map((mark) => (
          <option key={mark.label} value={mark.exact}>
            {mark.label}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
  /** A line for each bare time, its cells set apart by tabs. */
  const cardText = () =>
    [
      say.caption(laid?.body?.name ?? ""),
      [say.bare, ...shown.map(({ name }) => name)].join("\t"),
      ...(card.answer?.lines ?? []).map(({ mark, cells }) => [mark, ...cells.map(({ text }) => text)].join("\t")),
      say.note,
    ].join("\n");
  return (
    <div className="card-page">
      <header className="heading-line no-print">
        <h1>{say.title}</h1>
        <Button
          variant="quiet"
          disabled={!card.answer}
          onClick={() => void handOn({ title: say.title, text: cardText() })}
        >
          {words.handOn.share}
        </Button>
        <Button variant="signal" onClick={() => window.print()} disabled={!card.answer}>
          {say.print}
        </Button>
      </header>
      <p className="quiet no-print mb-0">{say.hint}</p>
      <div className="card-pick no-print">
        <fieldset>
          <legend>{say.glass}</legend>
          {solids.map((solid) => (
            <Form.Check
              key={solid.id}
              id={`card-${solid.id}`}
              label={solid.name}
              checked={!left.includes(solid.id)}
              onChange={(event) =>
                setLeft(event.target.checked ? left.filter((id) => id !== solid.id) : [...left, solid.id])
              }
            />
          ))}
        </fieldset>
        {end("fastest", say.fastest)}
        {end("slowest", say.slowest)}
      </div>
      {question.glass.length === 0 && <p>{say.none}</p>}
      <Fault error={card.error} again={card.again} />
      {card.shown && question.glass.length > 0 && (
        <div className="card-paper" data-stale={card.stale || undefined}>
          <table className="card-table" data-testid="field-card">
            <caption>{say.caption(laid?.body?.name ?? "")}</caption>
            <thead>
              <tr>
                <th scope="col">{say.bare}</th>
                {shown.map((column) => (
                  <th key={column.id} scope="col">
                    {column.name}
                    <span>{words.staff.stops((column.strength.stops + (column.strength.offset ?? 0)).toFixed(1))}</span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {card.shown.lines.map((line) => (
                <tr key={line.mark}>
                  <th scope="row">{line.mark}</th>
                  {line.cells.map((cell, at) => (
                    <td key={shown[at]?.id ?? at} data-bulb={cell.bulb || undefined}>
                      {cell.text}
                      {Math.abs(cell.cost_stops) >= 0.095 && <small>{signedStops(cell.cost_stops)}</small>}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
          <p className="quiet mb-0">{say.note}</p>
        </div>
      )}
    </div>
  );
}
