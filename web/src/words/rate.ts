import { words } from ".";

/** "rising 1 stop in 14 min", or steady. */
export function rateText(stopsPerMinute: number): string {
  const rate = Math.abs(stopsPerMinute);
  if (rate < 0.004) return words.rate.steady;
  const minutes = minutesText(Math.max(1, Math.round(1 / rate)));
  return stopsPerMinute > 0 ? words.rate.rising(minutes) : words.rate.falling(minutes);
}

/** "1 stop in 14 min", or steady. */
export function paceText(stopsPerMinute: number): string {
  const rate = Math.abs(stopsPerMinute);
  return rate < 0.004 ? words.rate.steady : words.rate.pace(minutesText(Math.max(1, Math.round(1 / rate))));
}

/** Whole minutes as people say them: 38 min, 1 h 40 min. */
export function minutesText(minutes: number): string {
  const rest = minutes % 60;
  if (minutes < 90) return `${minutes} min`;
  return rest === 0 ? `${Math.floor(minutes / 60)} h` : `${Math.floor(minutes / 60)} h ${rest} min`;
}
