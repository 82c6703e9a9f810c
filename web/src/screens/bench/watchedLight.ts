import type { BenchLight } from "../../state/benchLight";

/** What a watching phone saw since the metering. */
export function watchedLight({ rate }: BenchLight) {
  if (rate?.moved_stops == null) return null;
  const { moved_stops, moved_sd, weights, steps } = rate;
  return { stops: moved_stops, sd: moved_sd, weights, steps, from: "metering" as const };
}
