import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import type { Fault } from "../../api/client";
import { useKit } from "../../state/kit";
import { Choice } from "../../ui/fields";
import { bagWords } from "../../words/bag";
import type { Fact } from "../../questions/kit";
import { FaultText } from "./FaultText";

interface Props {
  fact: Fact;
  /** What it is called here. */
  label: string;
  value: unknown;
  fault: Fault | undefined;
  onChange: (value: unknown) => void;
}

/** One fact in the control that fits its shape. What cannot be read as a number is sent as it is, for the core to refuse. */
export function FactField({ fact, label: called, value, fault, onChange }: Props) {
  const id = `fact-${fact.name}`;
  const label = fact.unit ? `${called}, ${fact.unit}` : called;
  const hint = `${id}-hint`;
  const described = { "aria-describedby": fault ? `${hint} ${id}-fault` : hint, isInvalid: Boolean(fault) };
  const foot = (
    <>
      <p className="fact-use" id={hint}>
        {bagWords.usedBy(fact.used_by)}
      </p>
      <FaultText id={`${id}-fault`} fault={fault} />
    </>
  );
  switch (fact.shape) {
    case "flag":
      return (
        <Form.Group controlId={id} className="fact-flag">
          <Form.Check
            type="checkbox"
            id={id}
            className="choice"
            label={label}
            checked={value === true}
            aria-describedby={hint}
            onChange={(event) => onChange(event.target.checked)}
          />
          {foot}
        </Form.Group>
      );
    case "choice":
      return fact.opens && fact.choices.length <= MOST_IN_VIEW ? (
        <div className="fact-wide">
          <Choice
            name={id}
            label={label}
            value={typeof value === "string" ? value : null}
            choices={fact.choices.map(({ code, label }) => [code, label] as const)}
            onValue={onChange}
          />
          {foot}
        </div>
      ) : (
        <Form.Group controlId={id}>
          <Form.Label>{label}</Form.Label>
          <Form.Select
            {...described}
            value={typeof value === "string" ? value : ""}
            onChange={(event) => onChange(event.target.value)}
          >
            {fact.choices.map(({ code, label }) => (
              <option key={code} value={code}>
                {label}
              </option>
            ))}
          </Form.Select>
          {foot}
        </Form.Group>
      );
    case "ids":
      return <Named ids={(value as string[] | undefined) ?? []} label={label} onChange={onChange} />;
    case "pairs":
      return (
        <Rows id={id} fact={fact} rows={(value as [number, number][] | undefined) ?? []} onChange={onChange}>
          {foot}
        </Rows>
      );
    case "numbers":
      return (
        <TextField
          id={id}
          label={label}
          value={listed(value)}
          described={described}
          onText={(text) => onChange(list(text))}
        >
          {foot}
        </TextField>
      );
    case "text":
      return (
        <TextField
          id={id}
          label={label}
          value={typeof value === "string" ? value : ""}
          described={described}
          onText={onChange}
          most={fact.most}
        >
          {foot}
        </TextField>
      );
    default:
      return (
        <TextField
          id={id}
          label={label}
          value={typeof value === "number" || typeof value === "string" ? String(value) : ""}
          described={described}
          hint={fact.default == null ? bagWords.unknown : undefined}
          beside={<Near fact={fact} label={called} value={value} onChange={onChange} />}
          onText={(text) => onChange(text.trim() === "" ? fact.default : number(text))}
        >
          {foot}
        </TextField>
      );
  }
}

/** More than these are a list to pull down. */
const MOST_IN_VIEW = 5;

interface NearProps {
  fact: Fact;
  label: string;
  value: unknown;
  onChange: (value: number) => void;
}

/** A number without typing: what it usually is, or a step more and less. */
function Near({ fact, label, value, onChange }: NearProps) {
  if (!fact.opens || (fact.usual.length === 0 && fact.by === 0)) return null;
  const now = typeof value === "number" ? value : 0;
  const step = (by: number) => onChange(Math.min(fact.high, Math.max(fact.low, Number((now + by).toFixed(2)))));
  return (
    <div className="fact-near">
      {fact.usual.map((each) => (
        <Button key={each} variant="choice" size="sm" aria-pressed={each === value} onClick={() => onChange(each)}>
          {each}
        </Button>
      ))}
      {fact.by > 0 && (
        <>
          <Button variant="quiet" aria-label={bagWords.less(label)} onClick={() => step(-fact.by)}>
            −
          </Button>
          <Button variant="quiet" aria-label={bagWords.greater(label)} onClick={() => step(fact.by)}>
            +
          </Button>
        </>
      )}
    </div>
  );
}

/** Other things of the bag, by name. They are named on the bench; here they can be let go. */
function Named({ ids, label, onChange }: { ids: string[]; label: string; onChange: (value: string[]) => void }) {
  const { items } = useKit();
  if (ids.length === 0) return null;
  const names = ids.map((id) => items.find((item) => item.id === id)?.name ?? bagWords.notThere);
  return (
    <div>
      <p className="form-label">{label}</p>
      <p className="mb-1">{names.join(" + ")}</p>
      <Button variant="quiet" onClick={() => onChange([])}>
        {bagWords.apart}
      </Button>
    </div>
  );
}

interface TextProps {
  id: string;
  label: string;
  value: string;
  described: object;
  onText: (text: string) => void;
  most?: number;
  hint?: string | undefined;
  beside?: React.ReactNode;
  children: React.ReactNode;
}

/** Keeps what is typed as it is typed; what it means goes out beside it. */
function TextField({ id, label, value, described, onText, most, hint, beside, children }: TextProps) {
  const [text, setText] = useState<{ typed: string; meant: string } | null>(null);
  // A change from outside (a label taken over) wins over what was typed before it.
  const shown = text?.meant === value ? text.typed : value;
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <div className="fact-line">
        <Form.Control
          {...described}
          autoComplete="off"
          value={shown}
          maxLength={most}
          placeholder={hint}
          onChange={(event) => {
            const typed = event.target.value;
            onText(typed);
            setText({ typed, meant: meaning(typed, most !== undefined) });
          }}
        />
        {beside}
      </div>
      {children}
    </Form.Group>
  );
}

function meaning(typed: string, plain: boolean): string {
  if (plain) return typed;
  if (typed.includes(" ") && typed.trim().includes(" ")) return listed(list(typed));
  const value = number(typed);
  return typed.trim() === "" ? "" : String(value);
}

function number(text: string): number | string {
  const value = Number(text.trim().replace(",", ".").replace("−", "-"));
  return text.trim() === "" || Number.isNaN(value) ? text : value;
}

function list(text: string): (number | string)[] {
  return text
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((part) => number(part));
}

function listed(value: unknown): string {
  return Array.isArray(value) ? value.join(" ") : "";
}

interface RowsProps {
  id: string;
  fact: Fact;
  rows: [number | string, number | string][];
  onChange: (rows: unknown) => void;
  children: React.ReactNode;
}

function Rows({ id, fact, rows, onChange, children }: RowsProps) {
  const edit = (at: number, place: 0 | 1, text: string) =>
    onChange(rows.map((row, each) => (each === at ? row.with(place, number(text)) : row)));
  return (
    <div className="fact-rows" role="group" aria-labelledby={`${id}-label`}>
      <span className="form-label" id={`${id}-label`}>
        {fact.label}: {fact.pair.join(", ")}
      </span>
      {rows.map((row, at) => (
        <div key={at} className="fact-row">
          {([0, 1] as const).map((place) => (
            <Form.Control
              key={place}
              aria-label={`${fact.pair[place]}, ${at + 1}`}
              inputMode="decimal"
              value={String(row[place])}
              onChange={(event) => edit(at, place, event.target.value)}
            />
          ))}
          <Button
            variant="quiet"
            aria-label={`${bagWords.rowRemove}: ${at + 1}`}
            onClick={() => onChange(rows.filter((_, each) => each !== at))}
          >
            ×
          </Button>
        </div>
      ))}
      <Button variant="quiet" onClick={() => onChange([...rows, ["", ""]])}>
        {bagWords.rowAdd}
      </Button>
      {children}
    </div>
  );
}
