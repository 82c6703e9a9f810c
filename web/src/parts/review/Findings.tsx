import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useFindings } from "../../questions/log";
import { useLooks } from "../../questions/looks";
import { looksOf } from "../../state/asks";
import { useBench } from "../../state/bench";
import { changeFrame, type Frame } from "../../state/frames";
import { looks as ownLooks } from "../../state/looks";
import { words } from "../../words";
import { logWords } from "../../words/log";
import { NOTHING, type Review } from "./verdict";
import "./review.css";

type Defect = NonNullable<Review["defects"]>[number];
type Tasted = NonNullable<Review["tasted"]>[number];

const say = logWords.review;

/** What else was seen in the picture, and whether the time was right for its looks. Every tap is kept at once. */
export function Findings({ frame }: { frame: Frame }) {
  const findings = useFindings();
  const review = frame.review ?? NOTHING;
  const defects = review.defects;
  const change = (part: Partial<Review>) =>
    void changeFrame(frame.id, (now) => ({ ...now, review: { ...(now.review ?? NOTHING), ...part } }));
  const toggle = (code: Defect) =>
    change({ defects: defects.includes(code) ? defects.filter((defect) => defect !== code) : [...defects, code] });
  return (
    <div className="review">
      <h3>{say.defects}</h3>
      <div className="review-defects" role="group" aria-label={say.defects}>
        {findings.map((finding) => (
          <Button
            key={finding.code}
            variant="segment"
            active={defects.includes(finding.code)}
            aria-pressed={defects.includes(finding.code)}
            onClick={() => toggle(finding.code)}
          >
            {finding.label}
          </Button>
        ))}
      </div>
      <Tastes tasted={review.tasted} onChange={(tasted) => change({ tasted })} />
    </div>
  );
}

/** Was the time right for the looks in front of the camera? */
function Tastes({ tasted, onChange }: { tasted: Tasted[]; onChange: (tasted: Tasted[]) => void }) {
  const [laid] = useBench();
  const own = ownLooks.use();
  const windows = useLooks(laid && looksOf(laid, own)).shown?.windows ?? [];
  const [picked, setPicked] = useState("");
  const looks = [...new Set(windows.map((window) => `${window.kind}/${window.look}`))];
  const add = (fit: Tasted["fit"]) => {
    const [kind, look] = picked.split("/");
    if (!kind || !look) return;
    onChange([...tasted.filter((taste) => taste.kind !== kind || taste.look !== look), { kind, look, fit }]);
    setPicked("");
  };
  return (
    <>
      <h3>{say.tastes}</h3>
      {tasted.length > 0 && (
        <ul className="plain-list">
          {tasted.map((taste) => (
            <li key={`${taste.kind}/${taste.look}`} className="review-taste">
              <span>
                {kindOf(taste.kind)}, {taste.look.replaceAll("_", " ")}: {say.fits[taste.fit]}
              </span>
              <Button
                variant="quiet"
                size="sm"
                onClick={() => onChange(tasted.filter((each) => each !== taste))}
                aria-label={`${say.off}: ${taste.look}`}
              >
                {say.off}
              </Button>
            </li>
          ))}
        </ul>
      )}
      <div className="review-taste-add">
        <Form.Select aria-label={say.tastesAdd} value={picked} onChange={(event) => setPicked(event.target.value)}>
          <option value="">{say.tastesAdd}</option>
          {looks.map((verdict) => {
            const [kind = "", look = ""] = verdict.split("/");
            return (
              <option key={verdict} value={verdict}>
                {kindOf(kind)}: {look.replaceAll("_", " ")}
              </option>
            );
          })}
        </Form.Select>
        <div role="group" aria-label={say.tastes}>
          {(["short", "right", "long"] as const).map((fit) => (
            <Button key={fit} variant="quiet" size="sm" disabled={!picked} onClick={() => add(fit)}>
              {say.fits[fit]}
            </Button>
          ))}
        </div>
      </div>
    </>
  );
}

function kindOf(kind: string): string {
  return (words.looks.kinds as Record<string, string>)[kind] ?? kind;
}
