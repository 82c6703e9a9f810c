import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { amend } from "../../state/amend";
import { useBench } from "../../state/bench";
import type { ItemOf } from "../../state/kit";
import { NumberField } from "../../ui/NumberField";
import { typed } from "../../ui/typed";
import { bagWords } from "../../words/bag";
import { StepPicture } from "./StepPicture";
import { today } from "../../words/zone";

const say = bagWords.measuring;

/** From which focal length a lens shows no rim, with what stood in front when one looked. */
export function CornerSteps({ item, onDone }: { item: ItemOf<"lens">; onDone: () => void }) {
  const [laid] = useBench();
  const on = laid?.items.filter(({ id }) => laid.stack.some((glass) => glass.id === id)) ?? [];
  const depths = on.map(({ facts }) => facts.rim_depth_mm);
  const openings = on.map(({ facts }) => facts.clear_mm).filter((clear) => clear !== null);
  const rims =
    depths.length > 0 && !depths.includes(null) ? depths.reduce<number>((sum, each) => sum + (each ?? 0), 0) : null;
  const [text, setText] = useState({
    clear_from_mm: String(item.facts.focal_min_mm),
    clear_rims_mm: shown(item.facts.clear_rims_mm ?? rims),
    clear_opening_mm: shown(item.facts.clear_opening_mm ?? (openings.length > 0 ? Math.min(...openings) : null)),
  });
  const numbers = Object.entries(text).map(([name, each]) => [name, typed(each)] as const);
  const use = async (event: SubmitEvent) => {
    event.preventDefault();
    await amend(item, { ...Object.fromEntries(numbers), clear_seen_on: today() }, say.cornersUsed(item.name));
    onDone();
  };
  const field = (name: keyof typeof text, label: string) => (
    <NumberField id={name} label={label} value={text[name]} onChange={(next) => setText({ ...text, [name]: next })} />
  );
  return (
    <Form className="steps" onSubmit={(event) => void use(event)}>
      <ol>
        <li>
          <StepPicture show="corners" />
          <p>{say.cornersHint}</p>
        </li>
      </ol>
      {field("clear_from_mm", say.cornersAt)}
      {field("clear_rims_mm", say.cornersRims)}
      {field("clear_opening_mm", say.cornersOpening)}
      <Button type="submit" variant="signal" disabled={numbers.some(([, each]) => each === undefined)}>
        {say.use}
      </Button>
    </Form>
  );
}

function shown(value: number | null): string {
  return value === null ? "" : String(value);
}
