import type { Schemas } from "../../api/client";
import type { Light } from "../../questions/light";
import { lightOf } from "../../state/asks";
import { type Outing, span } from "../../state/outings";
import { instantOf } from "../../words/zone";

/** Another outing over the clock hours of this one. */
export function overSameHours(other: Outing, current: Outing): Schemas["LightInput"] {
  const [from, to] = span(current);
  const by = apart(other, current);
  return {
    ...lightOf(other),
    from: new Date(from - by).toISOString(),
    to: new Date(to - by).toISOString(),
  };
}

/** Its light where this outing's hours are. */
export function shifted(light: Light | undefined, other: Outing, current: Outing): { ms: number; ev100: number }[] {
  const by = apart(other, current);
  return (light?.points ?? []).map(({ at, ev100 }) => ({ ms: Date.parse(at) + by, ev100 }));
}

/** From one's midnight to the other's [ms]. */
function apart(other: Outing, current: Outing): number {
  return instantOf(current.date, "00:00", current.zone) - instantOf(other.date, "00:00", other.zone);
}
