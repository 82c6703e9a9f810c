import type { Laid } from "../../state/bench";
import type { Band } from "../staff/Bands";
import { wishes } from "../../state/scene";
import { words } from "../../words";
import type { Looks } from "../../questions/looks";

const MOST_BANDS = 4;

/** The windows of what moves, as columns beside the staff; what is wished for stands out. */
export function bandsOf(laid: Laid, looks: Looks | undefined): Band[] {
  const { subjects, wants } = laid.bench.scene;
  return subjects.slice(0, MOST_BANDS).map((subject) => ({
    id: subject.id,
    kind: subject.kind,
    name: words.looks.kinds[subject.kind],
    windows: (looks?.windows ?? [])
      .filter((window) => window.id === subject.id && window.from_seconds != null)
      .map((window) => ({
        look: window.look,
        from: window.from_seconds ?? 0,
        to: window.to_seconds,
        wanted: wants.some((want) => wishes(want, subject) && want.look === window.look),
      })),
  }));
}
