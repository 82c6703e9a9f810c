import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { amend } from "../../state/amend";
import { useBench } from "../../state/bench";
import type { ItemOf } from "../../state/kit";
import { NumberField } from "../../ui/NumberField";
import { typed } from "../../ui/typed";
import { bagWords } from "../../words/bag";
import { StepPicture } from "./StepPicture";
import { withEnd } from "./cleanEnds";

const say = bagWords.measuring;

/** How far a variable filter can be turned before it shows, at one focal length. */
export function CleanEndSteps({ item, onDone }: { item: ItemOf<"glass">; onDone: () => void }) {
  const [laid] = useBench();
  const [focal, setFocal] = useState(laid?.focalMm === undefined ? "" : String(laid.focalMm));
  const { stops, stops_max, usable_end } = item.facts;
  const [end, setEnd] = useState(Math.max(stops, (stops_max ?? stops) - 1));
  const at = typed(focal);
  const use = async (event: SubmitEvent) => {
    event.preventDefault();
    if (at === undefined) return;
    const facts = { usable_end: withEnd(usable_end, [at, Math.round(end * 100) / 100]) };
    await amend(item, facts, say.cleanUsed(item.name, end.toFixed(1), String(at)));
    onDone();
  };
  return (
    <Form className="steps" onSubmit={(event) => void use(event)}>
      <ol>
        <li>
          <StepPicture show="cross" />
          <p>{say.cleanHint}</p>
        </li>
      </ol>
      <NumberField id="clean-focal" label={say.cleanAt} value={focal} onChange={setFocal} />
      <Form.Group controlId="clean-end">
        <Form.Label>
          {say.cleanTo}: <strong>{end.toFixed(1)}</strong>
        </Form.Label>
        <Form.Range
          min={stops}
          max={stops_max ?? stops}
          step={0.1}
          value={end}
          onChange={(event) => setEnd(Number(event.target.value))}
        />
      </Form.Group>
      <Button type="submit" variant="signal" disabled={at === undefined}>
        {say.use}
      </Button>
    </Form>
  );
}
