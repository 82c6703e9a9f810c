import { useState, useSyncExternalStore } from "react";
import { Button } from "react-bootstrap";
import { remember, useHabits } from "../../state/habits";
import { queueBell, wake } from "../../ui/bell";
import { askToNotify, mayNotify } from "../../ui/tell";
import { hasVoice, onVoices, speak } from "../../ui/voice";
import { clockIn } from "../../words/clock";
import { runWords } from "../../words/run";
import { ITS_OWN } from "../../words/zone";

const say = runWords.signals;
/** Who heard it so long ago may have switched it off since [ms]. */
const HEARD_MS = 12 * 3_600_000;

/** How the end makes itself known: the bell tried before it matters, and what this browser cannot do. */
export function Signals({ onRefused }: { onRefused: (refused: boolean) => void }) {
  const { heard, speaks } = useHabits();
  const voiced = useSyncExternalStore(onVoices, hasVoice);
  const [asking, setAsking] = useState(false);
  const [notHeard, setNotHeard] = useState(false);
  const [notices, setNotices] = useState(mayNotify);
  const [now] = useState(() => Date.now());
  const lately = heard !== null && now - Date.parse(heard) < HEARD_MS;
  const vibrates = "vibrate" in navigator;

  const ring = async () => {
    const loud = await wake();
    onRefused(!loud);
    setNotHeard(false);
    setAsking(loud);
    if (!loud) return;
    queueBell(0);
    if (vibrates) navigator.vibrate(200);
  };
  const answer = (yes: boolean) => {
    setAsking(false);
    setNotHeard(!yes);
    remember({ heard: yes ? new Date().toISOString() : null });
  };

  return (
    <div className="signals">
      <div className="run-foot">
        <Button variant="quiet" onClick={() => void ring()}>
          {say.ring}
        </Button>
        {asking ? (
          <span className="signals-asked" role="group" aria-label={say.asked}>
            <span>{say.asked}</span>
            <Button variant="quiet" onClick={() => answer(true)}>
              {say.yes}
            </Button>
            <Button variant="quiet" onClick={() => answer(false)}>
              {say.no}
            </Button>
          </span>
        ) : (
          <span className="quiet" role="status">
            {notHeard ? say.notHeard : lately ? say.heard(clockIn(Date.parse(heard), ITS_OWN)) : say.untried}
          </span>
        )}
        {voiced && (
          <Button
            variant="segment"
            active={speaks}
            aria-pressed={speaks}
            onClick={() => {
              remember({ speaks: !speaks });
              if (!speaks) speak(runWords.spoken.open);
            }}
          >
            {say.speak}
          </Button>
        )}
        {notices === "ask" && (
          <Button variant="quiet" onClick={() => void askToNotify().then(setNotices)}>
            {say.allow}
          </Button>
        )}
      </div>
      <p className="quiet mb-0">
        {say.end(vibrates, notices)}
        {!("wakeLock" in navigator) && ` ${say.notAwake}`}
      </p>
    </div>
  );
}
