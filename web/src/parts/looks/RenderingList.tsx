import { words } from "../../words";
import type { Looks, Rendering } from "../../questions/looks";

interface Props {
  renderings: Rendering[];
  /** It is about another time or scene than the one that stands there now. */
  stale: boolean;
  looks: Looks | undefined;
  seconds: number;
}

/** What this time does to each thing in the picture, and whether it lies in the aim. */
export function RenderingList({ renderings, stale, looks, seconds }: Props) {
  const aim = looks?.aim;
  if (renderings.length === 0) return null;
  return (
    <div className="seen" data-stale={stale || undefined}>
      {aim && (
        <p className="seen-aim">
          {seconds < aim.from_seconds
            ? words.looks.shorter
            : aim.to_seconds != null && seconds > aim.to_seconds
              ? words.looks.longer
              : words.looks.inAim}
        </p>
      )}
      {looks?.conflict && <p className="seen-aim">{looks.conflict.text}</p>}
      <dl>
        {renderings.map((sight) => (
          <div key={sight.id ?? sight.kind}>
            <dt>{words.looks.kinds[sight.kind as keyof typeof words.looks.kinds]}</dt>
            <dd>{sight.text}</dd>
          </div>
        ))}
      </dl>
      {looks?.advice
        .filter(({ code }) => code === "cloud_moves" || code === "cloud_stays_still")
        .map(({ code, text }) => (
          <p key={code} className="quiet mb-0">
            {text}
          </p>
        ))}
    </div>
  );
}
