import { useEffect, useRef, useState } from "react";
import { useHabits } from "../../state/habits";
import { type Spoken, spokenAt } from "../../state/spokenClock";
import { useNow } from "../../ui/useNow";
import { speak } from "../../ui/voice";
import { placeClock } from "../../words/clock";
import { runWords } from "../../words/run";

/** How an open shutter tells of itself beside the screen: by its end, the page's title, a voice. */

/** The clock time at which it closes [in the zone of the place], worked out anew when it moves by a second. */
export function useEnd(inSeconds: number | null, zone: string): string | null {
  const now = useNow(1000);
  const [clock, setClock] = useState<{ at: number; to: number } | null>(null);
  if (inSeconds === null) return null;
  const at = now + inSeconds * 1000;
  // It is looked at ten times a second, the clock ticks once: only what moves the end itself is news.
  if (clock === null || Math.abs(clock.at - at) > 1500) setClock({ at, to: Math.round(at / 1000) * 1000 });
  return placeClock(clock?.to ?? at, zone, "seconds");
}

/** The countdown in the page's title, for whoever has another tab before them. */
export function useTitle(text: string | null): void {
  useEffect(() => {
    if (text === null) return;
    const before = document.title;
    document.title = text;
    return () => {
      document.title = before;
    };
  }, [text]);
}

/** The clock spoken, where somebody wants it so and the frame runs in real time. */
export function useSpokenClock(left: number | null, elapsed: number, speed: number): void {
  const { speaks } = useHabits();
  const before = useRef<{ left: number | null; elapsed: number } | null>(null);
  const whole = left === null ? null : Math.ceil(left);
  const gone = Math.floor(elapsed);
  useEffect(() => {
    const spoken = spokenAt(whole, gone, before.current);
    before.current = { left: whole, elapsed: gone };
    if (!speaks || spoken === null || speed !== 1) return;
    speak(inWords(spoken, whole === null));
  }, [whole, gone, speaks, speed]);
}

function inWords(spoken: Spoken, endless: boolean): string {
  const say = runWords.spoken;
  if ("open" in spoken) return say.open;
  if ("close" in spoken) return say.close;
  if ("seconds" in spoken) return String(spoken.seconds);
  return endless ? say.gone(spoken.minutes) : say.toGo(spoken.minutes);
}

/** Draws again as often as that, and at once when the page comes back. */
export function useBeat(everyMs: number): void {
  const [, beat] = useState(0);
  useEffect(() => {
    const on = () => beat((count) => count + 1);
    const timer = window.setInterval(on, everyMs);
    document.addEventListener("visibilitychange", on);
    return () => {
      window.clearInterval(timer);
      document.removeEventListener("visibilitychange", on);
    };
  }, [everyMs]);
}
