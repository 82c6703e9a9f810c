import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useReadout } from "../../questions/bench";
import { settingsOf, useBench } from "../../state/bench";
import { justTime } from "../../state/running";
import { runWords } from "../../words/run";
import { exactTime } from "../../words/times";

const USUAL = [15, 30, 60, 120, 240, 480];
/** A watch has no marks: its bare number is seconds, never a fraction of one. */
const BARE = /^[\d.,]+$/;
/** The shortest dial there is, so that 30 s are thirty by the clock and not a mark's 32. */
const NO_DIAL_S = 1;

/** A plain timer, for whoever has worked the time out elsewhere: a tap, and it is ready to count down. */
export function JustTime() {
  const say = runWords.just;
  const [laid] = useBench();
  const [text, setText] = useState("");
  const typed = BARE.test(text.trim()) ? `${text.trim()} s` : text.trim();
  const read = useReadout(typed === "" ? null : { text: typed, step: "third", dial_limit: NO_DIAL_S });
  const readings = typed === "" ? [] : (read.answer?.readings ?? []);
  if (!laid) return null;
  const time = (seconds: number) => justTime(seconds, settingsOf(laid), laid.dialLimit);
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    const [only, other] = readings;
    if (only && !other) time(only.seconds);
  };
  return (
    <section className="just-time" aria-labelledby="just-title">
      <h2 id="just-title">{say.title}</h2>
      <div className="just-times">
        {USUAL.map((seconds) => (
          <Button key={seconds} variant="quiet" onClick={() => time(seconds)}>
            {exactTime(seconds)}
          </Button>
        ))}
      </div>
      <Form onSubmit={submit}>
        <Form.Group controlId="just-text">
          <Form.Label>{say.other}</Form.Label>
          <Form.Control autoComplete="off" value={text} onChange={(event) => setText(event.target.value)} />
        </Form.Group>
        <div aria-live="polite" className="just-said">
          {read.error && typed !== "" && <p className="fault mb-0">{read.error.message}</p>}
          {readings.map((reading) => (
            <Button key={reading.seconds} variant="quiet" onClick={() => time(reading.seconds)}>
              {say.take(exactTime(reading.seconds))}
            </Button>
          ))}
        </div>
      </Form>
    </section>
  );
}
