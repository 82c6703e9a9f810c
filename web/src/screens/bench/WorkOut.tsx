import { ToggleButton, ToggleButtonGroup } from "react-bootstrap";
import type { Floating } from "../../state/bench";
import { words } from "../../words";

const WHAT: Floating[] = ["time", "stack", "aperture", "iso", "reading"];

/** The one choice of what is worked out; the rest stands. */
export function WorkOut({ what, onChange }: { what: Floating; onChange: (what: Floating) => void }) {
  return (
    <section className="bench-work" aria-labelledby="work-title">
      <h2 id="work-title">{words.workOut.title}</h2>
      <ToggleButtonGroup
        type="radio"
        name="work-out"
        className="segments"
        aria-labelledby="work-title"
        value={what}
        onChange={onChange}
      >
        {WHAT.map((quantity) => (
          <ToggleButton key={quantity} id={`work-${quantity}`} value={quantity} variant="segment">
            {words.workOut.what[quantity]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </section>
  );
}
