// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import type { Laid } from "../../state/bench";
import type { Outing } from "../../state/outings";
import { waitOf } from "./asks";

const AT = "2027-04-17T04:30:00.000Z";
const EARLIER = { at: "2027-04-17T04:00:00.000Z", ev100: 7 };

function asked(bench: object, ev100: number | undefined = 9.4) {
  const outing = { latitude: 60, longitude: 5, sky: "clear", scene: "sky_lit", readings: [EARLIER], skies: [] };
  const laid = { bench: { meter: "camera", shutter: "1/40", aperture: "9", iso: "64", ...bench }, through: [] };
  return waitOf(outing as unknown as Outing, laid as unknown as Laid, Date.parse(AT), 2, ev100).readings;
}

describe("waiting for the light", () => {
  it.each([
    ["counts the reading beside it", asked({ meteredAt: AT, expectedSd: null }), [EARLIER, { at: AT, ev100: 9.4 }]],
    ["has none before one metered", asked({ meteredAt: null, expectedSd: null }), [EARLIER]],
    ["takes no forecast for a reading", asked({ meteredAt: AT, expectedSd: 0.4 }), [EARLIER]],
  ])("%s", (_, readings, expected) => expect(readings).toEqual(expected));
});
