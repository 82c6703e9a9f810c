import { useDeveloped } from "../../questions/dryRun";
import { useDryRun } from "../../state/dryRunClock";
import { shotOf } from "../../state/dryRunShots";
import { type Frame, useFinished } from "../../state/frames";
import { useKit } from "../../state/kit";
import { Fault } from "../../ui/Fault";
import { dryRunWords as words } from "../../words/dryRun";
import { DryHistogram } from "./DryHistogram";
import { DryPicture } from "./DryPicture";

/** The frame that the simulated camera hands over in a dry run; null for one that is no frame of it. */
export function DryFrame({ frame }: { frame: Frame }) {
  const run = useDryRun();
  const kit = useKit();
  const before = useFinished().filter((other) => other.opened_at < frame.opened_at);
  const shot = run && shotOf(frame, run, kit.items);
  const through = run ? before.flatMap((other) => shotOf(other, run, kit.items)?.stack ?? []).map(({ id }) => id) : [];
  const scenario = run?.begun.scenario;
  const developed = useDeveloped(
    scenario && shot ? { scenario, shot, through_before: [...new Set(through)].slice(0, 8) } : null,
  );
  const framing = shot && scenario?.framings[shot.framing];
  if (!framing) return null;
  const say = words.frame;
  return (
    <figure className="dry-frame">
      <Fault error={developed.error} again={developed.again} />
      {developed.answer && (
        <>
          <DryPicture developed={developed.answer} drawn={framing.drawn} name={framing.name} />
          <DryHistogram developed={developed.answer} />
          <figcaption>
            {say.caption} {say.look}
          </figcaption>
        </>
      )}
    </figure>
  );
}
