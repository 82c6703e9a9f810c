import { type Exposure, useExposure, useLadders, useRig, useSteer } from "../../questions/bench";
import { useLooks, useRenderings } from "../../questions/looks";
import { exposureOf, looksOf, sceneOf, steerOf, wishedSum } from "../../state/asks";
import type { Laid } from "../../state/bench";
import { type BenchLight, useBenchLight } from "../../state/benchLight";
import { useHabits } from "../../state/habits";
import { useKit } from "../../state/kit";
import { looks as ownLooks } from "../../state/looks";
import { words } from "../../words";
import { rigOf } from "./asks";
import { settledMark, withMark } from "./settled";

const NO_FINDINGS: never[] = [];

/** What the bench asks the core, and what stands on screen of it: one answer for every part of the screen. */
export function useBenchView(held: Laid) {
  const ladders = useLadders(held.step, held.dialLimit);
  const light = useBenchLight(held);
  const steering = steerOf({ ...held, light: light.moving });
  const steered = useSteer(steering);
  const { timerSeconds } = useHabits();
  const settled = settledMark(held, steered.answer);
  const laid = { ...withMark(held, settled?.mark), light: light.moving, timerSeconds };
  const { bench } = laid;
  const exposure = useExposure(exposureOf(laid));
  const kit = useKit();
  const wish = useExposure(wishedSum(laid, steered.answer));
  const onLens = useRig(rigOf(laid, kit.items));
  const own = ownLooks.use();
  const looked = useLooks(looksOf(laid, own));
  const answer = exposure.shown;
  // While something is worked out, the sum stands on what that comes to: no sooner is it an answer.
  const fresh = steering === null || steered.answer ? exposure.answer : undefined;
  const floating = bench.floating === "time" || bench.targetSeconds === null ? null : bench.floating;
  // What is worth knowing is said of what was asked for, not of the filters that lie there meanwhile.
  const sought = floating === "stack" || floating === "reading";
  // While glass or reading floats, the time that counts is the one held; else the one the sum gives.
  const heldTime = bench.floating === "stack" || bench.floating === "reading" ? bench.targetSeconds : null;
  const seconds = heldTime ?? answer?.set_seconds;
  const rendered = useRenderings(seconds === undefined ? null : { ...sceneOf(laid), wants: [], seconds });
  return {
    laid,
    ladders,
    light,
    answer,
    fresh,
    floating,
    settled,
    seconds,
    exposure,
    steered: { ...steered, asked: steering !== null },
    looks: looked.shown,
    aim: looked.answer?.aim ?? null,
    noted: (sought ? wish.shown : answer)?.advice ?? null,
    findings: sought ? NO_FINDINGS : onLens,
    waits: fresh?.turning ? words.bench.armTurn : sought ? words.bench.armWay : null,
    renderings:
      seconds === undefined
        ? null
        : { shown: rendered.shown?.subjects ?? [], stale: rendered.stale || looked.stale, seconds },
  };
}

export type BenchView = ReturnType<typeof useBenchView>;

/** What the light says about the reading. */
export function lightAdvice(light: BenchLight): Exposure["advice"] {
  const advice = light.plausible?.advice ?? light.fits?.advice;
  return [advice, light.rate?.advice].filter((remark) => remark != null);
}
