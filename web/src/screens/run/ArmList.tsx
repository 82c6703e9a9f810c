import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import type { Schemas } from "../../api/client";
import { remember, useHabits } from "../../state/habits";
import { useKeys } from "../../ui/useKeys";
import { runWords } from "../../words/run";
import type { Ticks } from "./useTicks";
import "./arm-list.css";

type Line = Schemas["CheckLineAnswer"];

interface Props {
  lines: Line[];
  ticks: Ticks;
  /** The line that a device's failure points at. */
  pointed: string | null;
}

/** What hands do, in their order: what is still to do first, what is done folded. It never stands in the way of opening. */
export function ArmList({ lines, ticks, pointed }: Props) {
  const { folded: away } = useHabits();
  const [all, setAll] = useState(false);
  const [doneShown, setDoneShown] = useState(false);
  const { done, tick } = ticks;
  const hidden = (line: Line) => line.habit && line.severity !== "harm" && away.includes(line.code);
  const asked = lines.filter((line) => all || !hidden(line) || line.code === pointed);
  const open = asked.filter(({ code }) => !done.includes(code));
  const ticked = asked.filter(({ code }) => done.includes(code));
  const left = lines.length - asked.length;
  useKeys(
    "1,2,3,4,5,6,7",
    (event) => {
      const line = open[Number(event.code.slice(-1)) - 1];
      if (line) tick(line.code);
    },
    "position",
  );
  const shown = (line: Line) => (
    <ArmLine
      key={line.code}
      line={line}
      done={done.includes(line.code)}
      pointed={line.code === pointed}
      onTick={tick}
    />
  );
  return (
    <div className="arm-list">
      <ol aria-label={runWords.list.title}>
        {open.map(shown)}
        {doneShown && ticked.map(shown)}
      </ol>
      {ticked.length > 0 && (
        <button
          type="button"
          className="row-line arm-done"
          aria-expanded={doneShown}
          onClick={() => setDoneShown(!doneShown)}
        >
          <span>{runWords.list.done(ticked.length)}</span>
        </button>
      )}
      {(left > 0 || all) && (
        <Button variant="quiet" onClick={() => setAll(!all)}>
          {all ? runWords.list.less : runWords.list.more(left)}
        </Button>
      )}
    </div>
  );
}

interface LineProps {
  line: Line;
  done: boolean;
  pointed: boolean;
  onTick: (code: string) => void;
}

/** One thing that hands do; why, one tap away. */
function ArmLine({ line, done, pointed, onTick }: LineProps) {
  const [why, setWhy] = useState(false);
  const { folded: away } = useHabits();
  const put = away.includes(line.code);
  return (
    <li className={`arm-${line.severity}`} data-pointed={pointed || undefined}>
      <Form.Check
        id={`arm-${line.code}`}
        className="choice"
        checked={done}
        onChange={() => onTick(line.code)}
        label={<strong>{line.text}</strong>}
      />
      <Button
        variant="quiet"
        className="arm-why"
        aria-expanded={why}
        aria-label={runWords.list.whyOf(line.text)}
        onClick={() => setWhy(!why)}
      >
        {runWords.list.why}
      </Button>
      {why && (
        <p className="arm-reason">
          {line.why}{" "}
          {line.habit && line.severity !== "harm" && (
            <Button
              variant="quiet"
              aria-label={`${put ? runWords.list.unfold : runWords.list.fold}: ${line.text}`}
              onClick={() =>
                remember({ folded: put ? away.filter((code) => code !== line.code) : [...away, line.code] })
              }
            >
              {put ? runWords.list.unfold : runWords.list.fold}
            </Button>
          )}
        </p>
      )}
    </li>
  );
}
