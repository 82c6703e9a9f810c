import { useEffect, useState } from "react";
import { Button, Form } from "react-bootstrap";
import type { Schemas } from "../../api/client";
import { ticked } from "../../state/dryRuns";
import { remember, useHabits } from "../../state/habits";
import { useKeys } from "../../ui/useKeys";
import { runWords } from "../../words/run";

type Line = Schemas["ChecklistLineAnswer"];

interface Props {
  lines: Line[];
  /** The line that a device's failure points at. */
  pointed: string | null;
}

/** What hands do, in their order; it never stands in the way of opening. */
export function ArmList({ lines, pointed }: Props) {
  const { folded: away } = useHabits();
  const [done, setDone] = useState<string[]>([]);
  const [open, setOpen] = useState(false);
  // In a dry run what was forgotten shows in the picture.
  useEffect(() => ticked(done), [done]);
  const hidden = (line: Line) => line.habit && line.severity !== "harm" && away.includes(line.code);
  const shown = lines.filter((line) => open || !hidden(line) || line.code === pointed);
  const left = lines.length - shown.length;
  const tick = (code: string) =>
    setDone(done.includes(code) ? done.filter((ticked) => ticked !== code) : [...done, code]);
  useKeys(
    "1,2,3,4,5,6,7",
    (event) => {
      const line = shown[Number(event.code.slice(-1)) - 1];
      if (line) tick(line.code);
    },
    "position",
  );
  return (
    <div className="arm-list">
      <ol aria-label={runWords.list.title}>
        {shown.map((line, place) => (
          <li key={line.code} className={`arm-${line.severity}`} data-pointed={line.code === pointed || undefined}>
            <Form.Check
              id={`arm-${line.code}`}
              className="choice"
              checked={done.includes(line.code)}
              onChange={() => tick(line.code)}
              label={
                <>
                  <strong>
                    <kbd aria-hidden="true">{place + 1}</kbd> {line.text}
                  </strong>
                  <span>{line.why}</span>
                </>
              }
            />
            {line.habit && line.severity !== "harm" && (
              <Button
                variant="quiet"
                size="sm"
                aria-label={`${away.includes(line.code) ? runWords.list.unfold : runWords.list.fold}: ${line.text}`}
                onClick={() =>
                  remember({
                    folded: away.includes(line.code)
                      ? away.filter((folded) => folded !== line.code)
                      : [...away, line.code],
                  })
                }
              >
                {away.includes(line.code) ? runWords.list.unfold : runWords.list.fold}
              </Button>
            )}
          </li>
        ))}
      </ol>
      {(left > 0 || open) && (
        <Button variant="link" className="plain-link" onClick={() => setOpen(!open)}>
          {open ? runWords.list.less : runWords.list.more(left)}
        </Button>
      )}
    </div>
  );
}
