import { useEffect, useState } from "react";
import { Button } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { words } from "../../words";
import { runWords } from "../../words/run";
import { tick, wake } from "../../ui/bell";
import { habits, remember, useHabits } from "../../state/habits";
import { type Failure, tryDevice } from "../../state/trigger";

const SECONDS = 5;
const LEAD = 3;

type Stage = "ready" | "lead" | "open" | "done";

/** The instant the press belongs to. */
function zeroIn(seconds: number): number {
  return Date.now() + seconds * 1000;
}

/** Five seconds with a new remote: does it answer, is it bulb and single frame, and how late is it. */
export function RemoteTest({ onClose, onFailure }: { onClose: () => void; onFailure: (failure: Failure) => void }) {
  const say = runWords.test;
  const { device } = useHabits();
  const simulated = device.kind === "simulated";
  const [stage, setStage] = useState<Stage>("ready");
  const [zero, setZero] = useState(0);
  const [left, setLeft] = useState(LEAD);
  const [heard, setHeard] = useState<number | null>(null);
  const [failure, setFailure] = useState<Failure | null>(null);
  const [length, setLength] = useState<number | null>(null);

  useEffect(() => {
    if (stage !== "lead" && stage !== "open") return;
    const timer = window.setInterval(() => {
      const now = Date.now();
      const seconds = Math.ceil((stage === "lead" ? zero - now : zero + SECONDS * 1000 - now) / 1000);
      setLeft((was) => {
        if (stage === "lead" && seconds !== was && seconds >= 0) tick();
        return seconds;
      });
      if (stage === "lead" && now >= zero) setStage("open");
    }, 50);
    return () => window.clearInterval(timer);
  }, [stage, zero]);

  const start = async () => {
    await wake();
    if (!simulated) {
      setZero(zeroIn(LEAD));
      setStage("lead");
      return;
    }
    const at = new Date();
    try {
      const tried = await tryDevice(at, SECONDS);
      if (tried.length > 0) setLength(tried.length);
      if (tried.failure) {
        setFailure(tried.failure);
        onFailure(tried.failure);
        return;
      }
      finish(tried.delay);
    } catch {
      setFailure({ code: "unreachable", text: words.trouble.unreachable, line: "remote" });
    }
  };
  const finish = (delay: number) => {
    setHeard(delay);
    setStage("done");
    // A hand's tap on hearing the shutter is itself a fifth of a second late or more.
    const known = simulated ? 0 : Math.max(0, Math.round((delay - 0.2) * 10) / 10);
    remember({ device: { ...habits().device, tested: true, delay: known } });
  };

  return (
    <Modal show onHide={onClose} centered aria-labelledby="remote-test">
      <Modal.Header closeButton closeLabel={words.close}>
        <Modal.Title id="remote-test">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        {stage === "ready" && <p className="mb-0">{simulated ? say.simulated : say.hand}</p>}
        {stage === "lead" && <p className="run-clock">{Math.max(0, left)}</p>}
        {stage === "open" && (
          <>
            <p className="run-clock">{Math.max(0, left)}</p>
            <Button
              variant="quiet"
              className="run-go"
              disabled={heard !== null}
              onClick={() => setHeard((Date.now() - zero) / 1000)}
            >
              {say.opened}
            </Button>
            <Button
              variant="quiet"
              className="run-go"
              disabled={heard === null}
              onClick={() => {
                setLength((Date.now() - zero) / 1000 - (heard ?? 0));
                finish(heard ?? 0);
              }}
            >
              {say.closed}
            </Button>
          </>
        )}
        {failure && (
          <p className="fault" role="alert">
            {failure.text}
          </p>
        )}
        {stage === "done" && (
          <p className="mb-0" role="status">
            {say.works(device.delay.toFixed(1), (length ?? SECONDS).toFixed(1))}
          </p>
        )}
      </Modal.Body>
      <Modal.Footer>
        {stage === "ready" && !failure && (
          <Button variant="signal" onClick={() => void start()}>
            {say.start}
          </Button>
        )}
        {failure && (
          <Button variant="quiet" onClick={() => setFailure(null)}>
            {words.trouble.again}
          </Button>
        )}
        <Button variant="quiet" onClick={onClose}>
          {words.close}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
