import type { Frame } from "../../state/frames";
import { Belongs } from "./Belongs";
import { Findings } from "./Findings";
import { VerdictScale } from "./VerdictScale";
import "./review.css";

/** How it came out, and what else was seen. Every tap is kept at once. */
export function ReviewPanel({ frame }: { frame: Frame }) {
  return (
    <div className="review">
      <VerdictScale frame={frame} />
      <Belongs frame={frame} />
      <Findings frame={frame} />
    </div>
  );
}
