import { useState } from "react";
import { Button } from "react-bootstrap";
import { Described } from "../../parts/looks/Described";
import { useDescribed } from "../../questions/looks";
import { type Kind, type Scene, withFacts, withSubject } from "../../state/scene";
import { words } from "../../words";

const OFFERED: Kind[] = ["sea", "river", "cloud", "people", "leaves", "vehicles", "lamps", "stars", "tide"];
/** Who has said so much of the picture is not asked on. */
const ASKED_UP_TO = 3;

interface Props {
  scene: Scene;
  onScene: (scene: Scene) => void;
  onMore: () => void;
}

/** What is in the picture, asked by the way: before anything is said nothing is judged. */
export function SubjectRow({ scene, onScene, onMore }: Props) {
  // What was named last is asked about: the one thing of it that decides most.
  const [asking, setAsking] = useState<string | null>(null);
  const described = useDescribed(asking !== null);
  const subject = scene.subjects.find(({ id }) => id === asking);
  const aspect = subject && described.find(({ kind }) => kind === subject.kind)?.aspects[0];
  if (subject && aspect) {
    return (
      <section className="subject-row" aria-label={words.looks.ask}>
        <Described
          subject={subject}
          aspects={[aspect]}
          named
          onFacts={(facts, instead) => {
            setAsking(null);
            onScene(withFacts(scene, subject.id, facts, instead));
          }}
        />
        <div>
          <Button variant="link" className="plain-link" onClick={() => setAsking(null)}>
            {words.looks.asItIs}
          </Button>
          <Button variant="link" className="plain-link" onClick={onMore}>
            {words.looks.more}
          </Button>
        </div>
      </section>
    );
  }
  if (scene.subjects.length >= ASKED_UP_TO || scene.wants.length > 0) return null;
  const there = scene.subjects.map(({ kind }) => kind);
  const pick = (kind: Kind) => {
    const next = withSubject(scene, kind);
    setAsking(next.subjects.at(-1)?.id ?? null);
    onScene(next);
  };
  return (
    <section className="subject-row" aria-label={words.looks.ask}>
      <p>{words.looks.ask}</p>
      <div>
        {OFFERED.filter((kind) => !there.includes(kind)).map((kind) => (
          <Button key={kind} variant="quiet" size="sm" onClick={() => pick(kind)}>
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
