import type { Aspect } from "../../questions/looks";
import type { SceneSubject } from "../../state/scene";
import { Choice } from "../../ui/fields";
import { words } from "../../words";

interface Props {
  subject: SceneSubject;
  aspects: Aspect[];
  /** Where nothing beside it says what the subject is. */
  named?: boolean;
  /** What is said now, and which numbers it replaces. */
  onFacts: (facts: SceneSubject["facts"], instead: string[]) => void;
}

/** What one sees of a subject, in words; each stands for numbers that the core knows. */
export function Described({ subject, aspects, named, onFacts }: Props) {
  const kind = words.looks.kinds[subject.kind];
  const parts = aspects.map((aspect) => {
    // A number of one's own is no word any more.
    const measured = aspect.instead.some((name) => name in subject.facts);
    const chosen = aspect.ways.find(
      (way) => !measured && Object.entries(way.facts).every(([name, value]) => subject.facts[name] === value),
    );
    return (
      <Choice
        key={aspect.name}
        name={`${subject.id}-${aspect.name.replaceAll(" ", "-")}`}
        label={words.looks.aspect(kind, aspect.name, named === true)}
        value={chosen?.word ?? null}
        choices={aspect.ways.map((way) => [way.word, way.word] as const)}
        onValue={(word) => {
          const way = aspect.ways.find((each) => each.word === word);
          if (way) onFacts(way.facts, aspect.instead);
        }}
        wide
      />
    );
  });
  return <div className="described">{parts}</div>;
}
