import type { ExposureEnd } from "../../questions/exposureEnd";
import type { Frame } from "../../state/frames";
import { words } from "../../words";
import { runWords } from "../../words/run";
import { signedStops, timeText } from "../../words/times";
import { watchWords } from "../../words/watch";

/** Both ends where they differ, and why: nothing where they do not; ways out where the frame never fills. */
export function Ends({
  frame,
  closing,
  aimed,
}: {
  frame: Frame;
  closing: ExposureEnd | undefined;
  aimed: number | null;
}) {
  const say = runWords;
  const planned = frame.answer.set_seconds;
  if (frame.run?.purpose === "stopwatch") return <p className="run-ends">{say.just.counting}</p>;
  if (!closing) return null;
  if (aimed === null || closing.ways_out.length > 0)
    return (
      <div className="run-ways" role="alert">
        <strong>{say.neverFills}</strong>
        <ul>
          {closing.ways_out.map((way) => (
            <li key={way.code}>{way.text}</li>
          ))}
        </ul>
      </div>
    );
  const learnt = frame.run?.rereads.at(-1);
  const light = closing.close_after_seconds;
  const apart = (a: number, b: number) => Math.abs(Math.log2(a / b)) >= APART;
  const dialStays = frame.answer.dial_mark !== null && ` ${say.dialStays}`;
  if (closing.light && light != null && apart(light, planned))
    return (
      <p className="run-ends" data-testid="run-ends">
        {watchWords.ends(wholeTime(planned), wholeTime(light))}
        {dialStays}
      </p>
    );
  if (learnt && light != null && apart(light, planned)) {
    const read = words.staff.stops(signedStops(learnt.stops));
    return (
      <p className="run-ends" data-testid="run-ends">
        {say.bothEnds(wholeTime(planned), wholeTime(light))} {say.becauseRead(read)}
        {dialStays}
      </p>
    );
  }
  // What the light does to the plan stands on the staff.
  return null;
}

function wholeTime(seconds: number): string {
  return timeText(seconds < 10 ? seconds : Math.round(seconds));
}

/** What closing now would do to the frame. */
export function IfClosed({ stops }: { stops: number }) {
  const say = runWords.ifClosed;
  const size = words.staff.stops(Math.abs(stops).toFixed(1));
  if (Math.abs(stops) < RIGHT) return say.right;
  return stops < 0 ? say.dark(size) : say.bright(size);
}

/** So much [stops] nobody sees. */
const RIGHT = 0.05;

/** Ends closer than this are one end [stops]. */
const APART = 0.02;
