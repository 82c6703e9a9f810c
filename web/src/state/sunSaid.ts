import { dateIn, ITS_OWN } from "../words/zone";
import { nowMs } from "../ui/worldClock";
import { habits, remember, useHabits } from "./habits";

/** An outing is a plan's and a day's; without a plan it is the day's. */
function outingNow(outing: string | null): string {
  return `${outing ?? ""} ${dateIn(nowMs(), ITS_OWN)}`;
}

/** Whether the words on the sun and dense filters have been said on this outing: a shutter opened beneath them. */
export function useSunSaid(): boolean {
  const { sunSaid, outing } = useHabits();
  return sunSaid === outingNow(outing);
}

export function saySun(): void {
  remember({ sunSaid: outingNow(habits().outing) });
}
