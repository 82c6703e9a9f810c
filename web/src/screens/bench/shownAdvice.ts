import type { Schemas } from "../../api/client";
import { useSunSaid } from "../../state/sunSaid";

type Advice = Schemas["AdviceAnswer"];

const ORDER = { harm: 0, caution: 1, note: 2 };

/** What of it is to be said: known things once, and what somebody has answered not again. */
export function useShownAdvice(advice: Advice[], findings: Advice[]): Advice[] {
  const sunSaid = useSunSaid();
  // Of the two ways to say that light leaks in, the one that knows this body is enough.
  const known = findings.some((finding) => finding.code === "eyepiece" || finding.code === "gaps");
  return [
    ...advice.filter(({ code }) => !(known && code === "stray_light") && !(sunSaid && code === "sun_eyes")),
    // Whether a polariser was on is asked beside the reading.
    ...findings.filter(({ code }) => code !== "was_it_on"),
  ];
}

/** The gravest first. */
export function orderedAdvice(advice: Advice[]): Advice[] {
  return advice.toSorted((a, b) => ORDER[a.severity] - ORDER[b.severity]);
}
