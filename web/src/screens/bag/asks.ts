import type { Schemas } from "../../api/client";
import { kitGlass } from "../../state/bag";
import type { Laid } from "../../state/bench";

/** Which part of the state the kit's own questions need. */

/** Which times the whole bag reaches from what the meter said; a hand meter's EV reaches none by itself. */
export function reachOf(laid: Laid, wished: number[] = []): Schemas["ReachInput"] {
  const { bench, body, lens, holder } = laid;
  const widest = lens?.facts.aperture_widest ?? 5.6;
  return {
    reading: { shutter: bench.shutter, aperture: bench.aperture, iso: bench.iso, step: laid.step, through: [] },
    glass: laid.items.slice(0, 24).map(kitGlass),
    slots: Math.min(4, (holder?.facts.slots ?? 2) + (holder?.facts.polariser_ring ? 1 : 0)),
    widest,
    sharp_to: Math.max(widest, lens?.facts.sharp_to ?? body?.offers.sharp_to ?? 11),
    isos: body?.offers.isos ?? ["100"],
    wished,
  };
}
