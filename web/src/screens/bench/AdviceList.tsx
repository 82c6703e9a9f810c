import type { Schemas } from "../../api/client";
import { useSunSaid } from "../../state/sunSaid";
import { words } from "../../words";

type Advice = Schemas["AdviceAnswer"];

const ORDER = { harm: 0, caution: 1, note: 2 };

/**
 * Words of caution, the gravest first; a bar and its weight tell them apart, not colour alone. What is merely worth
 * knowing about the rig is folded away.
 */
export function AdviceList({ advice, findings }: { advice: Advice[]; findings: Advice[] }) {
  const sunSaid = useSunSaid();
  // Of the two ways to say that light leaks in, the one that knows this body is enough.
  const known = findings.some((finding) => finding.code === "eyepiece" || finding.code === "gaps");
  const shown = [
    ...advice.filter(({ code }) => !(known && code === "stray_light") && !(sunSaid && code === "sun_eyes")),
    ...findings.filter((finding) => finding.severity !== "note"),
  ].toSorted((a, b) => ORDER[a.severity] - ORDER[b.severity]);
  // Whether a polariser was on is asked beside the reading.
  const folded = findings.filter(({ severity, code }) => severity === "note" && code !== "was_it_on");
  return (
    <>
      {shown.length > 0 && <List advice={shown} />}
      {folded.length > 0 && (
        <details className="advice-more">
          <summary>{words.bench.moreAdvice(folded.length)}</summary>
          <List advice={folded} />
        </details>
      )}
    </>
  );
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
