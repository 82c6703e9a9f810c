import { clockOff, isFar } from "../../api/clock";
import { isWhole } from "../../engine/takeAlong";
import { CannotSee, cameraEyes } from "../../state/eyes";
import type { Result } from "../../state/phoneCheck";
import { askToNotify, mayNotify } from "../../ui/tell";

/** What a phone can be asked without its owner's ears: each try gives what came of it. */

const works = (why = "works"): Result => ({ how: "works", why });
const fails = (why: string): Result => ({ how: "fails", why });
const absent = (why: string): Result => ({ how: "absent", why });

/** Hold the screen awake until `release` is called; `onLost` hears when the phone takes that back before. */
export async function tryAwake(onLost: (result: Result) => void): Promise<{ result: Result; release: () => void }> {
  const nothing = { release: () => undefined };
  if (!("wakeLock" in navigator)) return { result: fails("absent"), ...nothing };
  try {
    const lock = await navigator.wakeLock.request("screen");
    const lost = () => {
      // A page that is put away always loses it.
      if (document.visibilityState === "visible") onLost(fails("lost"));
    };
    lock.addEventListener("release", lost);
    const release = () => {
      lock.removeEventListener("release", lost);
      void lock.release();
    };
    return { result: works(), release };
  } catch {
    return { result: fails("refused"), ...nothing };
  }
}

export async function tryNotices(): Promise<Result> {
  if (typeof Notification === "undefined") return absent("absent");
  const may = mayNotify() === "ask" ? await askToNotify() : mayNotify();
  return may === "yes" ? works() : fails(may === "no" ? "denied" : "unanswered");
}

export async function tryStorage(): Promise<Result> {
  const { storage } = navigator as Partial<Navigator>;
  if (!storage) return fails("insecure");
  return (await storage.persisted()) || (await storage.persist()) ? works() : fails("refused");
}

export async function tryAlong(): Promise<Result> {
  if (!window.isSecureContext) return fails("insecure");
  const whole = await isWhole();
  return whole === "whole" ? works() : fails(whole);
}

export async function tryCamera(): Promise<Result> {
  try {
    const eyes = await cameraEyes(() => undefined);
    try {
      const seen = await eyes.see();
      if (seen === null) return fails("busy");
      if (seen.exposure_seconds === null) return seen.held ? works("holds") : fails("tells_nothing");
      return works(seen.held ? "holds" : "tells");
    } finally {
      eyes.close();
    }
  } catch (error) {
    return fails(error instanceof CannotSee ? error.why : "none");
  }
}

export function tryClock(): Result {
  const off = clockOff();
  if (off === null) return absent("unknown");
  return { ...(isFar(off) ? fails("off") : works()), seconds: Math.round(off.ahead / 1000) };
}
