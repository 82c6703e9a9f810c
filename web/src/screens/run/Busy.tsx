import { useNow } from "../../ui/useNow";
import { runWords } from "../../words/run";
import { clockText } from "../../words/times";

/** The camera still reduces noise from the last frame. */
export function Busy({ until }: { until: string | null }) {
  const now = useNow(1000);
  const left = until === null ? 0 : (Date.parse(until) - now) / 1000;
  if (left <= 0) return null;
  return <p className="run-note">{runWords.busy(clockText(Math.ceil(left)))}</p>;
}
