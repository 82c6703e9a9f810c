import { Form } from "react-bootstrap";
import { useFindings } from "../../questions/log";
import { itemsOf } from "../../state/bag";
import { useKit } from "../../state/kit";
import { FoldedChoice } from "../../ui/kinds/FoldedChoice";
import { logWords } from "../../words/log";

interface Props {
  params: URLSearchParams;
  setParams: (params: URLSearchParams) => void;
}

/** By what the frames are narrowed beside words; one of it at a time. */
const NARROWS = ["verdict", "defect", "glass"] as const;
const ALL = "";

/** One line: words, which frames, and their order. */
export function SearchBar({ params, setParams }: Props) {
  const say = logWords.search;
  const findings = useFindings();
  const glass = itemsOf(useKit().items, "glass");
  const set = (change: Record<string, string>) => {
    const next = new URLSearchParams(params);
    for (const [name, value] of Object.entries(change)) {
      if (value) next.set(name, value);
      else next.delete(name);
    }
    setParams(next);
  };
  const narrowed = NARROWS.find((name) => params.has(name));
  const of = (name: (typeof NARROWS)[number], choices: [string, string][]) =>
    choices.map(([value, text]) => [`${name}:${value}`, text] as const);
  return (
    <search className="log-search" aria-label={say.label}>
      <Form.Control
        type="search"
        aria-label={say.text}
        placeholder={say.text}
        maxLength={120}
        value={params.get("text") ?? ""}
        onChange={(event) => set({ text: event.target.value })}
      />
      <FoldedChoice
        label={say.which}
        value={narrowed === undefined ? ALL : `${narrowed}:${params.get(narrowed) ?? ""}`}
        choices={[[ALL, say.all]]}
        groups={[
          { title: say.verdict, choices: of("verdict", Object.entries(say.verdicts)) },
          {
            title: say.defect,
            choices: of(
              "defect",
              findings.map((finding) => [finding.code, finding.label]),
            ),
          },
          {
            title: say.glass,
            choices: of(
              "glass",
              glass.map((piece) => [piece.id, piece.name]),
            ),
          },
        ]}
        onValue={(value) => {
          const [name = "", ...rest] = value.split(":");
          set({ verdict: "", defect: "", glass: "", ...(value !== ALL && { [name]: rest.join(":") }) });
        }}
      />
      <FoldedChoice
        label={say.sort}
        value={params.get("sort") ?? "newest"}
        choices={Object.entries(say.sorts)}
        onValue={(sort) => set({ sort: sort === "newest" ? "" : sort })}
      />
    </search>
  );
}
