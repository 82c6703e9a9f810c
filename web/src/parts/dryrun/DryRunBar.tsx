import { useEffect, useState } from "react";
import { Button, Form, ToggleButton, ToggleButtonGroup } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { useLocation } from "wouter";
import { useHint } from "../../questions/dryRun";
import { useBench } from "../../state/bench";
import { beat, BEAT_MS, goTo, leaveDryRun, PACES, setPace, standOrGoOn } from "../../state/dryRun";
import { useDryRun } from "../../state/dryRunClock";
import type { DryRun } from "../../state/dryRuns";
import { useFinished, useOpenFrame } from "../../state/frames";
import { faultText } from "../../ui/faultText";
import { say as toast } from "../../ui/say";
import { useKeys } from "../../ui/useKeys";
import { useNow } from "../../ui/useNow";
import { useOnce } from "../../ui/useOnce";
import { usePace } from "../../ui/worldClock";
import { clockIn } from "../../words/clock";
import { dryRunWords as say } from "../../words/dryRun";
import "./dryrun.css";

/** On every screen while a dry run goes on: that it is one, its clock and pace, the picture, and the way out. */
export function DryRunBar() {
  const run = useDryRun();
  const [leaving, setLeaving] = useState(false);
  const open = useOpenFrame();
  const pace = usePace();
  const [, navigate] = useLocation();
  useEffect(() => {
    const timer = window.setInterval(beat, BEAT_MS);
    return () => window.clearInterval(timer);
  }, []);
  useKeys("h", standOrGoOn);
  const leave = useOnce(async () => {
    try {
      const replay = await leaveDryRun();
      setLeaving(false);
      navigate(replay === null ? "/log/practice/runs" : `/log/practice/runs/${replay}`);
    } catch (error) {
      toast({ text: faultText(error) });
    }
  });
  const { scenario } = run?.begun ?? {};
  return (
    <section className="dry-run-bar" aria-label={say.bar(scenario?.name ?? "")}>
      <strong className="dry-run-mark">{say.mark}</strong>
      <span className="dry-run-name">{scenario?.name}</span>
      {scenario && <WorldTime zone={scenario.zone} />}
      <ToggleButtonGroup type="radio" name="pace" aria-label={say.pace} value={pace} onChange={setPace}>
        {PACES.map((each) => (
          <ToggleButton
            key={each}
            id={`pace-${each}`}
            value={each}
            variant="segment"
            size="sm"
            aria-label={say.paceSaid[each]}
          >
            {say.paces[each]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {run && scenario && (
        <Form.Select
          size="sm"
          aria-label={say.picture}
          value={run.framing}
          disabled={open !== undefined}
          onChange={(event) => goTo(Number(event.target.value))}
        >
          {scenario.framings.map((framing, place) => (
            <option key={framing.name} value={place}>
              {framing.name}
            </option>
          ))}
        </Form.Select>
      )}
      <Button
        variant="quiet"
        size="sm"
        className="dry-run-leave"
        onClick={() => (open ? toast({ text: say.leaveFirst }) : setLeaving(true))}
      >
        {say.leave}
      </Button>
      {run && !run.expert && <HintLine run={run} />}
      {leaving && (
        <Modal show onHide={() => setLeaving(false)} centered aria-labelledby="leave-title">
          <Modal.Header closeButton closeLabel={say.leaveNo}>
            <Modal.Title id="leave-title">{say.leaveTitle}</Modal.Title>
          </Modal.Header>
          <Modal.Body>{say.leaveWhy}</Modal.Body>
          <Modal.Footer>
            <Button variant="quiet" onClick={() => setLeaving(false)}>
              {say.leaveNo}
            </Button>
            <Button variant="signal" onClick={() => void leave()}>
              {say.leaveYes}
            </Button>
          </Modal.Footer>
        </Modal>
      )}
    </section>
  );
}

function WorldTime({ zone }: { zone: string }) {
  const now = useNow(1000);
  return (
    <span className="dry-run-clock" role="timer" aria-label={say.clock} data-testid="dry-run-clock">
      {clockIn(now, zone, "seconds")}
    </span>
  );
}

/** Hints are asked for anew so often [ms of the world], and no oftener than hands can follow. */
const GRAIN_MS = 30_000;

/** The next step of a careful photographer, by the core. */
function HintLine({ run }: { run: DryRun }) {
  const [laid] = useBench();
  const pace = usePace();
  const grain = GRAIN_MS * Math.max(1, pace / 4);
  const now = useNow(GRAIN_MS / 3);
  const at = new Date(Math.floor(now / grain) * grain).toISOString();
  const taken = useFinished().some((frame) => run.opened[frame.id]?.framing === run.framing);
  const metered = laid?.bench.meteredAt != null;
  const hint = useHint({ scenario: run.begun.scenario, framing: run.framing, at, metered, taken });
  return (
    <p className="dry-run-hint" role="status">
      {hint.shown?.text ?? "\u00a0"}
    </p>
  );
}
