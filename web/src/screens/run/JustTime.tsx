import type { SubmitEvent } from "react";
import { Button, Form } from "react-bootstrap";
import { TimeText } from "../../parts/meter/TimeText";
import { useWatchText } from "../../parts/meter/typedTime";
import { useBench } from "../../state/bench";
import { justTime } from "../../state/running";
import { runWords } from "../../words/run";
import { timeText } from "../../words/times";

const USUAL = [15, 30, 60, 120, 240, 480];

/** A plain timer, for whoever has worked the time out elsewhere: a tap, and it is ready to count down. */
export function JustTime() {
  const say = runWords.just;
  const [laid] = useBench();
  const typed = useWatchText();
  if (!laid) return null;
  const time = (seconds: number | null) => justTime(seconds, laid.dialLimit);
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const read = await typed.settled();
    if (read) time(read.seconds);
  };
  return (
    <section className="just-time" aria-labelledby="just-title">
      <h2 id="just-title">{say.title}</h2>
      <div className="just-times">
        {USUAL.map((seconds) => (
          <Button key={seconds} variant="quiet" onClick={() => time(seconds)}>
            {timeText(seconds)}
          </Button>
        ))}
        <Button variant="quiet" className="count-up" onClick={() => time(null)}>
          {say.up}
        </Button>
      </div>
      <Form onSubmit={(event) => void submit(event)}>
        <TimeText id="just-text" label={say.other} time={typed} />
        {typed.read && (
          <Button variant="quiet" type="submit">
            {say.take(timeText(typed.read.seconds))}
          </Button>
        )}
      </Form>
    </section>
  );
}
