import type { Schemas } from "../../api/client";
import { words } from "../../words";
import { orderedAdvice, useShownAdvice } from "./shownAdvice";

type Advice = Schemas["AdviceAnswer"];

/** Words of caution, the gravest first; a bar and its weight tell them apart, not colour alone. */
export function AdviceList({ advice, findings }: { advice: Advice[]; findings: Advice[] }) {
  const shown = orderedAdvice(useShownAdvice(advice, findings));
  return shown.length > 0 && <List advice={shown} />;
}

function List({ advice }: { advice: Advice[] }) {
  return (
    <ul className="advice" aria-label={words.bench.words}>
      {advice.map((remark) => (
        <li key={remark.code + remark.text} className={`advice-${remark.severity}`}>
          {remark.text}
        </li>
      ))}
    </ul>
  );
}
