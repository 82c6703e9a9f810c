import { isResting } from "./resting";
import { useEffect, useRef } from "react";

/** The system's own player: what runs is seen on a locked screen, and a headset's button is heard. */

const PRESSES: MediaSessionAction[] = ["play", "pause", "stop", "nexttrack"];

/** What stands there: so many seconds gone of so many, at a rate. */
export interface Playing {
  title: string;
  total: number | null;
  elapsed: number;
  rate: number;
}

export function showPlaying({ title, total, elapsed, rate }: Playing): void {
  const { mediaSession } = navigator as Partial<Navigator>;
  if (!mediaSession) return;
  const artwork = [{ src: "/icon-192.png", sizes: "192x192", type: "image/png" }];
  mediaSession.metadata = new MediaMetadata({ title, artist: "Jackstaff", artwork });
  mediaSession.playbackState = "playing";
  if (total !== null && total > 0)
    mediaSession.setPositionState({ duration: total, position: Math.min(elapsed, total), playbackRate: rate });
}

export function showNothing(): void {
  const { mediaSession } = navigator as Partial<Navigator>;
  if (!mediaSession) return;
  mediaSession.metadata = null;
  mediaSession.playbackState = "none";
}

/** Hear the button of a headset, which works once the page has made a sound. */
export function useHeadset(press: (() => void) | null): void {
  const latest = useRef(press);
  useEffect(() => {
    latest.current = press;
  });
  const listening = press !== null;
  useEffect(() => {
    const { mediaSession } = navigator as Partial<Navigator>;
    if (!mediaSession || !listening) return;
    const each = (handler: MediaSessionActionHandler | null) => {
      for (const action of PRESSES) mediaSession.setActionHandler(action, handler);
    };
    each(() => {
      if (!isResting()) latest.current?.();
    });
    return () => each(null);
  }, [listening]);
}
