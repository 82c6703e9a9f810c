// @vitest-environment happy-dom
import { beforeEach, describe, expect, it } from "vitest";
import type { Exposure } from "../../questions/bench";
import { type Bench, fromStarter, lay, type Laid } from "../../state/bench";
import { remember } from "../../state/habits";
import type { KitItem } from "../../state/kit";
import type { Outing } from "../../state/outings";
import type { Armed } from "../../state/armed";
import { memoryShelf } from "../../state/shelf";
import { drawer, store } from "../../state/store";
import { armIt } from "./toArm";

const item = (sort: string, id: string, facts: object, beside: object = {}) =>
  ({ id, sort, name: id, note: "", retired: false, facts, ...beside }) as unknown as KitItem;
const filter = (id: string, stops: number, facts: object = {}, strength: object = {}) =>
  item(
    "glass",
    id,
    { kind: "solid", stops, members: [], ...facts },
    {
      strength: { kind: "solid", stops, offset: null, offset_sd: 0.17, low: stops, high: stops, ...strength },
    },
  );
const KIT = [
  item("body", "body A", { step: "third", dial_limit_s: 30 }),
  item("lens", "24 mm", { focal_min_mm: 24, focal_max_mm: 24 }),
  item("holder", "holder", { slots: 2 }),
  item("release", "wired", { kind: "wired" }),
  filter("ring", 6, { rim_depth_mm: 4, clear_mm: 74 }, { offset: 0.3, offset_sd: 0.1 }),
  filter("slot", 4, { rim_depth_mm: 2, clear_mm: 90 }),
];
const GONE = { name: "Ring ND 3", kind: "solid", stops: 3, offset: null, offset_sd: 0.17 } as const;
const ANSWER = {
  seconds: 203.2,
  metered_seconds: 203.2,
  base_seconds: 1 / 40,
  set_seconds: 203.2,
  sure_within_stops: 0.4,
  dial_mark: null,
  bulb: true,
  scene_ev100: 12.3,
  residue_stops: 0,
  steps: [{ kind: "reading", name: "Reading", stops: 0, seconds: 1 / 40, glass: null }],
} as unknown as Exposure;
const OUTING = {
  skies: [],
  name: "Vardsund mole",
  latitude: 58.05,
  longitude: 6.8,
  sky: "thin",
  weather: { swell_m: 0.7, wind_m_s: 6, celsius: 4 },
} as unknown as Outing;
const AT = Date.parse("2027-04-17T04:30:00Z");

const drawn = drawer<Armed>({ name: "armed", version: 1, check: (content) => content as Armed });

/** What stands ready on Run after *Get ready*. */
function ready(
  part: Partial<Bench> = {},
  more: { laid?: Partial<Laid>; answer?: object; outing?: Outing | null; items?: KitItem[] } = {},
) {
  const start = fromStarter({ reading: { shutter: "1/40", aperture: "9", iso: "64" } });
  const laid = { ...lay({ ...start, on: ["ring", "slot"], ...part }, KIT), ...more.laid };
  const answered = { ...ANSWER, ...more.answer };
  armIt({ laid, answered, items: more.items ?? KIT, outing: more.outing ?? null, at: AT, aim: null });
  const armed = drawn.get("armed");
  if (!armed) throw new Error("nothing stands ready");
  return armed;
}

beforeEach(() => store.open(memoryShelf(), "guest"));

describe("what Run takes over from the bench", () => {
  it("is the answer that stood there, with the reading and the settings it was worked out from", () => {
    const { plan, question } = ready({ shotAperture: "11", meteredAt: "2027-04-17T04:29:00.000Z" });
    expect(plan.answer).toMatchObject({ seconds: 203.2, set_seconds: 203.2, dial_mark: null });
    expect(plan.reading).toMatchObject({ shutter: "1/40", aperture: "9", metered_at: "2027-04-17T04:29:00.000Z" });
    expect(plan.settings).toEqual({ aperture: "11", iso: "64" });
    expect(question?.settings).toEqual(plan.settings);
    expect(ready({ meter: "hand", ev100: 7.5 }).plan.reading).toMatchObject({ ev100: 7.5 });
  });

  it("is the time that was decided, and what it lets in beside the light is meant", () => {
    const steps = [...ANSWER.steps, { kind: "chosen", name: "Chosen time", stops: 0.05, seconds: 210, glass: null }];
    const { plan, list } = ready({ targetSeconds: 210 }, { answer: { set_seconds: 210, residue_stops: 0.047, steps } });
    expect(plan.answer).toMatchObject({ seconds: 210, set_seconds: 210 });
    expect(plan.run).toMatchObject({ metered_seconds: 203.2, bias_stops: 0.047 });
    expect(list?.seconds).toBe(210);
  });

  it("is every filter at its strength, and which were on while metering", () => {
    const through = ["slot", "gone"].map((id) => ({ id, turn: null, glass: GONE }));
    const { plan, list } = ready({ through });
    expect(plan.reading.through).toMatchObject([
      { name: "slot", stops: 4, id: "slot", kind: "solid" },
      { name: "Ring ND 3", stops: 3, id: "gone", kind: "solid" },
    ]);
    expect(plan.stack).toEqual([
      { name: "ring", stops: 6, offset: 0.3, in_reading: false, id: "ring", kind: "solid" },
      { name: "slot", stops: 4, offset: null, in_reading: true, id: "slot", kind: "solid" },
    ]);
    expect(list?.glass.map(({ stops, in_reading }) => [stops, in_reading])).toEqual([
      [6.3, false],
      [4, true],
    ]);
  });

  it("is how the light moves, wherever that is known from", () => {
    const light = { stops_per_minute: -0.12, rate_sd: 0.05, delay_seconds: 90, moved_stops: null, moved_sd: 0 };
    expect(ready({}, { laid: { light } }).plan.run).toMatchObject({ stops_per_minute: -0.12, delay_seconds: 90 });
    expect(ready().plan.run).toMatchObject({ stops_per_minute: null, delay_seconds: 0, rereads: [] });
  });

  it("is the place and its weather only where an outing counts; rims add, the narrowest opening stays", () => {
    const out = ready({}, { outing: OUTING });
    expect(out.plan.conditions).toMatchObject({
      place: "Vardsund mole",
      sky: "thin",
      swell_m: 0.7,
      wind_m_s: 6,
      celsius: 4,
      rims_mm: 6,
      opening_mm: 74,
    });
    expect(out.list).toMatchObject({
      wind_m_s: 6,
      celsius: 4,
      sun: { latitude: 58.05, at: "2027-04-17T04:30:00.000Z" },
    });
    const alone = ready();
    expect(alone.plan.conditions).toMatchObject({ place: null, sky: null, swell_m: null, wind_m_s: null, ev100: 12.3 });
    expect(alone.list).toMatchObject({ sun: null, celsius: null });
    const bare = ready({ on: [] }).plan.conditions;
    expect([bare?.rims_mm, bare?.opening_mm]).toEqual([null, null]);
  });

  it("is only what somebody has said of the scene, never how such things usually are", () => {
    const sea = { id: "sea", kind: "sea", facts: { height_m: 0.6, period_s: 8 } } as const;
    const scene = { subjects: [sea], wants: [], elevationDeg: 8, bearingDeg: 300 };
    const unsaid = { swell_m: null, period_s: null, pitch_deg: null };
    expect(ready({ scene }).plan.conditions).toMatchObject(unsaid);
    const said = { ...scene, subjects: [{ ...sea, told: ["height_m"] }], toldElevation: true };
    expect(ready({ scene: said }).plan.conditions).toMatchObject({ swell_m: 0.6, period_s: null, pitch_deg: 8 });
  });

  it("is what was meant: on purpose, for black and white, as the last frame taught", () => {
    const correction = { stops: -0.5, name: "Last frame", because: "taste" } as const;
    const { plan, question, list } = ready({ purposeThirds: 2, monochrome: true, correction });
    expect(plan.run).toMatchObject({ purpose_stops: 2 / 3, correction_stops: -0.5, correction_for: "taste" });
    expect(plan.conditions).toMatchObject({ monochrome: true });
    expect(question).toMatchObject({ purpose_stops: 2 / 3, monochrome: true });
    // A rehearsal is reckoned from the frame's own ISO, the feet from its own focal length.
    expect(list).toMatchObject({ iso: "64", focal_mm: 24 });
  });

  it("is the one release there is, or the one chosen of several, or none before somebody has chosen", () => {
    const two = [...KIT, item("release", "app", { kind: "phone" })];
    const release = (items: KitItem[]) => ready({}, { items }).list;
    expect(release(KIT)).toMatchObject({ release: { kind: "wired" }, releases: 1 });
    expect(release(two)).toMatchObject({ release: null, releases: 2 });
    remember({ releaseId: "app" });
    expect(release(two)).toMatchObject({ release: { kind: "phone" } });
  });

  it("takes the place of whatever stood ready before, its queue and its result with it", async () => {
    ready();
    await drawn.set("armed", { ...(drawn.get("armed") as Armed), finished: "x", busyUntil: "2027-04-17T05:00:00Z" });
    expect(ready({ shotIso: "100" })).toMatchObject({ finished: null, queue: null, after: null, busyUntil: null });
  });
});
