import { useState } from "react";
import type { Schemas } from "../api/client";
import { type Plausible, type Rate, usePlausible, useRate, useSky } from "../questions/light";
import { useNow } from "../ui/useNow";
import { plausibleOf, rateOf, readingOf } from "./asks";
import type { Laid } from "./bench";
import { useDryRun } from "./dryRunClock";
import { isWatching, lightWatch, type LightWatch, useGoesOn } from "./lightWatch";
import { goingOn, instantNear, isLive, type Outing, span, useOutings } from "./outings";
import { saidMoving, seenMoving } from "./saidLight";
import { DEMO, useSession } from "./session";

export interface BenchLight {
  outing: Outing;
  /** Whether an outing goes on, or a time of it was chosen. */
  counts: boolean;
  at: number;
  plausible: Plausible | undefined;
  fits: Schemas["SkyFitsAnswer"] | undefined;
  /** What the readings of this scene say of the light's rate, together with the outing where one counts. */
  rate: Rate | undefined;
  /** What a phone saw of it, while it watches. */
  watch: LightWatch | null;
  /** Whether a minute of another day was chosen: it shows what the plan says, and no frame is made by it. */
  otherDay: boolean;
  /** Whether somebody's word would count: not while a phone watches, nor at a minute that is only planned. */
  sayable: boolean;
  /** Whether what somebody said of the light is what counts. */
  said: boolean;
  /** Whether anything but somebody's word says how the light moves. */
  known: boolean;
  /** Whether the reading is so far from the plan's sky that its rate stays out of the sum until somebody answers. */
  contradicted: boolean;
  /** What goes into the sum. */
  moving: Laid["light"];
}

/** How often a bench that nobody touches looks at the light [ms]. */
const TICK_MS = 10_000;

/** What the current outing, or the sky one sees, says about the light at the bench. */
export function useBenchLight(laid: Laid): BenchLight {
  const { bench } = laid;
  const { outings, current } = useOutings();
  const { username } = useSession();
  const now = useNow(TICK_MS);
  const watch = useSteadyWatch(now);
  const live = goingOn(outings, current, now);
  // A time that was chosen is the time of the outing it was chosen in.
  const outing = bench.lightAt === null ? (live ?? current) : current;
  // An expert's dry run has no forecast.
  const blind = useDryRun()?.expert === true;
  const counts = !blind && bench.useOuting && (live !== undefined || bench.lightAt !== null);
  const [from, to] = span(outing);
  const at = bench.lightAt === null ? Math.min(Math.max(now, from), to) : instantNear(outing, bench.lightAt);
  const plausible = usePlausible(counts ? plausibleOf(outing, laid, at) : null).answer;
  const sky = counts ? null : bench.skySeen;
  const fits = useSky(sky && { sky, reading: readingOf(laid) }).answer;
  // Somebody who watches is there: a time that was chosen for planning is not the time of this light.
  const here = bench.lightAt === null || watch !== null;
  const age = here && bench.meteredAt !== null ? (now - Date.parse(bench.meteredAt)) / 1000 : 0;
  const contradicted = counts && plausible !== undefined && isContradicted(bench, plausible);
  const planned = counts && plausible && !contradicted ? known(plausible) : null;
  // A time of the outing that was chosen is not the time of these readings.
  const rate = useRate(here ? rateOf(laid, now, planned, watch) : null).shown;
  const sayable = here && !watch;
  const said = sayable ? saidMoving(bench.saidLight, now) : null;
  const measured = (bench.earlier.length > 0 || watch) && rate?.counts ? known(rate) : null;
  // What somebody sees counts before what was planned; a reading taken since counts before that.
  const saidSince = said !== null && !(measured && isAfter(bench.meteredAt, bench.saidLight?.at));
  const rated = saidSince ? said : (measured ?? planned);
  const moved = watch ? (rate?.moved_stops ?? null) : null;
  const seen = sayable ? seenMoving(bench.seenLight, now, age) : null;
  const moving =
    seen ??
    (rated && {
      ...rated,
      // Half minutes are as fine as a rate deserves, and keep the sum still between key presses.
      delay_seconds: Math.min(6 * 3600, Math.max(0, Math.round(age / 30) * 30)),
      moved_stops: moved,
      moved_sd: moved === null ? 0 : (rate?.moved_sd ?? 0),
    });
  const shown = bench.earlier.length > 0 || watch ? rate : undefined;
  // The demo account's own day is made up.
  const otherDay = bench.lightAt !== null && username !== DEMO && !isLive(outing, now);
  return {
    outing,
    counts,
    at,
    plausible,
    fits,
    rate: shown,
    watch,
    otherDay,
    sayable,
    said: saidSince,
    known: (measured ?? planned) !== null,
    contradicted,
    moving,
  };
}

/** The watch as it stood when the clock last ticked: looks come every few seconds, and the sum is to stand still. */
function useSteadyWatch(now: number): LightWatch | null {
  const watching = useGoesOn();
  const taken = () => {
    const live = lightWatch();
    return { now, watching, watch: live && watching && isWatching(live) && live.looks.length > 0 ? live : null };
  };
  const [settled, setSettled] = useState(taken);
  if (settled.now !== now || settled.watching !== watching) {
    const next = taken();
    setSettled(next);
    return next.watch;
  }
  return settled.watch;
}

/** Light this far from a plan's is not the light that was planned [stops]. */
const CONTRADICTS = 2;

function isContradicted({ meteredAt, skyBelieved }: Laid["bench"], { ev100, forecast_ev100 }: Plausible): boolean {
  return meteredAt !== null && meteredAt !== skyBelieved && Math.abs(ev100 - forecast_ev100) > CONTRADICTS;
}

/** Whether one instant is later than another. */
function isAfter(one: string | null, other: string | undefined): boolean {
  return one !== null && other !== undefined && Date.parse(one) > Date.parse(other);
}

function known({ stops_per_minute, rate_sd }: Plausible | Rate): Schemas["KnownRateInput"] {
  return { stops_per_minute, rate_sd };
}
