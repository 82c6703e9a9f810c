import { words } from "../words";
import { timeText } from "../words/times";

/** "rising 1 stop / 14 min", or steady. */
export function rateText(stopsPerMinute: number): string {
  const rate = Math.abs(stopsPerMinute);
  if (rate < 0.004) return words.outing.steady;
  const minutes = timeText(Math.max(60, Math.round(1 / rate) * 60)).replace(" 00 s", "");
  return stopsPerMinute > 0 ? words.outing.rising(minutes) : words.outing.falling(minutes);
}
