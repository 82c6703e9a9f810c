import { Button } from "react-bootstrap";
import type { Kind } from "../../state/scene";
import { words } from "../../words";

const OFFERED: Kind[] = ["sea", "river", "cloud", "people", "leaves", "lamps", "stars", "tide"];

interface Props {
  /** What was said already. */
  there: Kind[];
  onPick: (kind: Kind) => void;
  onMore: () => void;
}

/** What is in the picture, asked by the way: before anything is said nothing is judged. */
export function SubjectRow({ there, onPick, onMore }: Props) {
  return (
    <section className="subject-row" aria-label={words.looks.ask}>
      <p>{words.looks.ask}</p>
      <div>
        {OFFERED.filter((kind) => !there.includes(kind)).map((kind) => (
          <Button key={kind} variant="quiet" size="sm" onClick={() => onPick(kind)}>
            {words.looks.kinds[kind]}
          </Button>
        ))}
        <Button variant="link" className="plain-link" onClick={onMore}>
          {words.looks.more}
        </Button>
      </div>
    </section>
  );
}
