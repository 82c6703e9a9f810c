import { useEffect, useState } from "react";
import { Button } from "react-bootstrap";
import { useNavigate } from "react-router";
import { Refused, Unreachable } from "../api/client";
import { arm } from "../run/running";
import { useMeasured } from "../shell/useMeasured";
import { useKeys } from "../shell/useKeys";
import { Staff } from "../staff/Staff";
import { words } from "../words";
import { AddGlass } from "./AddGlass";
import { Answer, Sum } from "./Answer";
import { BodyRules } from "./BodyRules";
import { Entry, type Field } from "./Entry";
import { ReadingPanel } from "./ReadingPanel";
import { Shelf } from "./Shelf";
import { type Bench, type Move, questionOf, stackOf } from "./state";
import { type Exposure, useBench, useExposure, useLadders } from "./useBench";
import "./bench.css";

export function BenchScreen() {
  const [bench, move] = useBench();
  if (!bench) return <p className="waiting">{words.bench.waiting}</p>;
  return <LaidBench bench={bench} move={move} />;
}

function LaidBench({ bench, move }: { bench: Bench; move: (move: Move) => void }) {
  const [entry, setEntry] = useState<Field | null>(null);
  const [panel, setPanel] = useState<"body" | "glass" | null>(null);
  const ladders = useLadders(bench.step, bench.dialLimit);
  const exposure = useExposure(questionOf(bench));
  const navigate = useNavigate();
  const stack = stackOf(bench);
  const set = (change: Partial<Bench>) => move({ do: "set", change });
  const answer = exposure.error instanceof Refused ? undefined : exposure.data;
  const fresh = answer && !exposure.isPlaceholderData && !exposure.error ? answer : undefined;

  const armIt = () => {
    if (!fresh) return;
    arm(bench, stack, fresh);
    void navigate("/run");
  };
  useBenchKeys(bench, move, armIt);
  useEffect(() => markPainted(), [answer]);

  return (
    <div className="bench">
      <h1 className="visually-hidden">{words.bench.title}</h1>
      <div className="bench-parts">
        <ReadingPanel bench={bench} ladders={ladders} set={set} onType={setEntry} onBody={() => setPanel("body")} />
        <section className="bench-staff" aria-label={words.bench.staff}>
          <StaffStage bench={bench} answer={answer} />
          <Shelf
            bench={bench}
            onToggle={(id) => move({ do: "toggle", id })}
            onToggleInReading={(id) => move({ do: "toggleInReading", id })}
            onRemove={(id) => move({ do: "remove", id })}
            onAdd={() => setPanel("glass")}
          />
        </section>
        <section className="bench-answer" aria-label={words.bench.hold}>
          {exposure.error && <Trouble error={exposure.error} retry={() => void exposure.refetch()} />}
          {answer && <Answer answer={answer} bench={bench} stale={!fresh} />}
          {answer && <Sum answer={answer} bench={bench} stack={stack} />}
          <ArmButton place="desk" onArm={armIt} ready={fresh !== undefined} />
        </section>
      </div>
      <ArmButton place="thumb" onArm={armIt} ready={fresh !== undefined} />
      {entry && (
        <Entry
          field={entry}
          bench={bench}
          onClose={() => setEntry(null)}
          onTake={(change) => {
            set(change);
            setEntry(null);
          }}
        />
      )}
      {panel === "body" && <BodyRules bench={bench} set={set} onClose={() => setPanel(null)} />}
      {panel === "glass" && (
        <AddGlass
          onClose={() => setPanel(null)}
          onAdd={(glass) => {
            move({ do: "add", glass });
            setPanel(null);
          }}
        />
      )}
    </div>
  );
}

/** The main action: under the sum at the desk, in reach of the thumb on a phone. */
function ArmButton({ place, onArm, ready }: { place: "desk" | "thumb"; onArm: () => void; ready: boolean }) {
  return (
    <Button variant="signal" className={`bench-arm arm-at-${place}`} onClick={onArm} disabled={!ready}>
      {words.bench.arm}
    </Button>
  );
}

function StaffStage({ bench, answer }: { bench: Bench; answer: Exposure | undefined }) {
  const [stage, size] = useMeasured<HTMLDivElement>();
  return (
    <div className="staff-stage" ref={stage}>
      {answer && size && (
        <Staff
          answer={answer}
          stack={stackOf(bench)}
          settings={{ aperture: bench.shotAperture ?? bench.aperture, iso: bench.shotIso ?? bench.iso }}
          dialLimit={bench.dialLimit}
          width={size.width}
          height={size.height}
        />
      )}
      {answer && bench.on.length === 0 && <p className="staff-hint">{words.bench.nothingOn}</p>}
    </div>
  );
}

function Trouble({ error, retry }: { error: Error; retry: () => void }) {
  return (
    <div className="trouble" role="alert">
      <p>{error instanceof Unreachable ? words.trouble.unreachable : error.message}</p>
      {error instanceof Unreachable && (
        <Button variant="quiet" onClick={retry}>
          {words.trouble.again}
        </Button>
      )}
    </div>
  );
}

function useBenchKeys(bench: Bench, move: (move: Move) => void, armIt: () => void) {
  const press = (turn: "toggle" | "toggleInReading") => (event: KeyboardEvent) => {
    const id = bench.bag[Number(event.code.slice(-1)) - 1]?.id;
    if (id) move({ do: turn, id });
  };
  const digits = [1, 2, 3, 4, 5, 6, 7, 8, 9];
  useKeys(digits.join(","), press("toggle"), "position");
  useKeys(digits.map((digit) => `shift+${digit}`).join(","), press("toggleInReading"), "position");
  useKeys("0", () => move({ do: "bare" }), "position");
  useKeys("m", () => move({ do: "set", change: { meteredAt: new Date().toISOString() } }));
  useKeys("r", armIt);
}

/** Leaves a mark when a new answer is on screen, which the benchmark reads. */
function markPainted() {
  requestAnimationFrame(() => performance.mark("jackstaff-answer-painted"));
}
