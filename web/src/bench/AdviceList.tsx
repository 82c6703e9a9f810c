import type { Schemas } from "../api/client";
import { words } from "../words";

/** Words of caution, the gravest first; a bar and its weight tell them apart, not colour alone. */
export function AdviceList({ advice }: { advice: Schemas["AdviceAnswer"][] }) {
  if (advice.length === 0) return null;
  const order = { harm: 0, caution: 1, note: 2 };
  const sorted = advice.toSorted((one, other) => order[one.severity] - order[other.severity]);
  return (
    <ul className="advice" aria-label={words.bench.words}>
      {sorted.map((one) => (
        <li key={one.code} className={`advice-${one.severity}`}>
          {one.text}
        </li>
      ))}
    </ul>
  );
}
