import type { ReactNode } from "react";
import type { Bench, Floating as What } from "../../state/bench";
import { useFinished } from "../../state/frames";
import { Fault } from "../../ui/Fault";
import { FoldedChoice } from "../../ui/kinds/FoldedChoice";
import { words } from "../../words";
import { Answer } from "./Answer";
import { LastFinding } from "./dialogs";
import type { Field } from "./Entry";
import { Floating } from "./Floating";
import type { BenchView } from "./useBenchView";
import { WaitLine } from "./WaitLine";

const WHAT: What[] = ["time", "stack", "aperture", "iso", "reading"];

interface Props {
  view: BenchView;
  set: (change: Partial<Bench>) => void;
  onType: (field: Field) => void;
  children: ReactNode;
}

/** What is worked out, and what it comes to. */
export function Outcome({ view, set, onType, children }: Props) {
  const { laid, answer, fresh, floating, settled, exposure, steered, light } = view;
  const { bench } = laid;
  const hasFrames = useFinished().length > 0;
  const float = (what: What) => {
    if (what === "time") set({ floating: "time", targetSeconds: null });
    // What is held from now on is the time that stands there.
    else if (bench.targetSeconds !== null || fresh)
      set({ floating: what, targetSeconds: bench.targetSeconds ?? fresh?.set_seconds ?? null });
  };
  return (
    <section className="bench-answer" aria-label={words.bench.answer}>
      <p className="work-out">
        <span className="quiet">{words.workOut.title}</span>{" "}
        <FoldedChoice
          label={words.workOut.title}
          value={floating ?? "time"}
          choices={WHAT.map((quantity) => [quantity, words.workOut.what[quantity]] as const)}
          onValue={float}
        />
      </p>
      <Fault
        error={exposure.error ?? steered.error}
        again={() => {
          exposure.again();
          if (steered.asked) steered.again();
        }}
      />
      {floating ? (
        <Floating
          what={floating}
          steered={steered.shown}
          stale={steered.stale}
          target={bench.targetSeconds ?? 1}
          dialLimit={laid.dialLimit}
          settled={settled}
          residue={fresh?.residue_stops}
          onTake={(mark) => set(taken(floating, mark))}
          onTarget={() => onType("time")}
        >
          {floating === "reading" && steered.answer && (
            <WaitLine laid={laid} light={light} seconds={steered.answer.value} />
          )}
        </Floating>
      ) : (
        answer && (
          <Answer
            answer={answer}
            laid={laid}
            stale={!fresh}
            onForget={() => set({ correction: null, seenLight: null })}
          />
        )
      )}
      {children}
      {hasFrames && <LastFinding laid={laid} set={set} />}
    </section>
  );
}

function taken(what: Exclude<What, "time">, mark: string): Partial<Bench> {
  switch (what) {
    // The time that was held stays the time of the frame.
    case "aperture":
      return { floating: "time", shotAperture: mark };
    case "iso":
      return { floating: "time", shotIso: mark };
    case "reading":
      return {
        floating: "time",
        targetSeconds: null,
        shutter: mark.includes("/") ? mark : `${mark} s`,
        meter: "camera",
      };
    case "stack":
      return {};
  }
}
