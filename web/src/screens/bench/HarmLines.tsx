import { Button } from "react-bootstrap";
import type { Schemas } from "../../api/client";
import { words } from "../../words";
import { orderedAdvice, useShownAdvice } from "./shownAdvice";

type Advice = Schemas["AdviceAnswer"];

interface Props {
  advice: Advice[];
  findings: Advice[];
}

/** What can hurt somebody stands above the action. */
export function HarmLines({ advice, findings }: Props) {
  const shown = orderedAdvice(useShownAdvice(advice, findings));
  return shown
    .filter(({ severity }) => severity === "harm")
    .map(({ code, text }) => (
      <p key={code} className="harm">
        {text}
      </p>
    ));
}

/** How much else is worth knowing: one quiet line away. */
export function NotesLine({ advice, findings, onMore }: Props & { onMore: () => void }) {
  const rest = useShownAdvice(advice, findings).filter(({ severity }) => severity !== "harm").length;
  return (
    rest > 0 && (
      <Button variant="quiet" className="notes-line" onClick={onMore}>
        {words.bench.moreAdvice(rest)}
      </Button>
    )
  );
}
