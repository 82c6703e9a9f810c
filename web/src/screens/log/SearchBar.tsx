import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { itemsOf } from "../../state/bag";
import { useKit } from "../../state/kit";
import { logWords } from "../../words/log";
import { useFindings } from "../../questions/log";
import type { NAMES } from "./searching";

interface Props {
  params: URLSearchParams;
  setParams: (params: URLSearchParams) => void;
}

/** Words, verdict, what was seen, glass and order. */
export function SearchBar({ params, setParams }: Props) {
  const say = logWords.search;
  const findings = useFindings();
  const glass = itemsOf(useKit().items, "glass");
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value) next.set(name, value);
    else next.delete(name);
    setParams(next);
  };
  const pick = (name: (typeof NAMES)[number], label: string, options: [string, string][]) => (
    <Form.Group controlId={`search-${name}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Select value={params.get(name) ?? ""} onChange={(event) => set(name, event.target.value)}>
        <option value="">{name === "sort" ? say.sorts["newest"] : say.any}</option>
        {options.map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
  // On a phone it is folded away until it is wanted, or while it narrows what is shown.
  const [open, setOpen] = useState(params.size > 0);
  return (
    <search className="log-search" aria-label={say.label} data-open={open || undefined}>
      <Button variant="quiet" className="log-search-open" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? say.fold : say.open}
      </Button>
      <Form.Group controlId="search-text">
        <Form.Label>{say.text}</Form.Label>
        <Form.Control
          type="search"
          maxLength={120}
          value={params.get("text") ?? ""}
          onChange={(event) => set("text", event.target.value)}
        />
      </Form.Group>
      {pick("verdict", say.verdict, Object.entries(say.verdicts))}
      {pick(
        "defect",
        say.defect,
        findings.map((finding) => [finding.code, finding.label]),
      )}
      {pick(
        "glass",
        say.glass,
        glass.map((piece) => [piece.id, piece.name]),
      )}
      {pick(
        "sort",
        say.sort,
        Object.entries(say.sorts).filter(([code]) => code !== "newest"),
      )}
    </search>
  );
}
