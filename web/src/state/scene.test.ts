import { describe, expect, it } from "vitest";
import {
  BEGINNING,
  FIRST_SCENE,
  KINDS,
  type Scene,
  toggledWant,
  wishFor,
  withFacts,
  withoutSubject,
  withSubject,
} from "./scene";

const scene: Scene = {
  ...FIRST_SCENE,
  subjects: [
    { id: "a", kind: "cloud", facts: { class: "low", wind_m_s: 6 } },
    { id: "b", kind: "people", facts: { standing: 0 } },
    { id: "c", kind: "people", facts: { standing: 4 } },
  ],
  wants: [
    { kind: "cloud", look: "streaks" },
    { kind: "people", look: "gone" },
  ],
};

describe("what is in the picture", () => {
  it("is nothing before somebody says so; then each thing begins as such things usually are", () => {
    expect(FIRST_SCENE.subjects).toEqual([]);
    for (const kind of KINDS) {
      const { subjects } = withSubject(FIRST_SCENE, kind);
      expect(subjects).toEqual([{ id: subjects[0]?.id, kind, facts: BEGINNING[kind] }]);
    }
    const twice = withSubject(withSubject(FIRST_SCENE, "sea"), "sea");
    expect(new Set(twice.subjects.map(({ id }) => id)).size).toBe(2);
  });

  it("learns of one thing at a time, and of nothing else", () => {
    const told = withFacts(scene, "b", { standing: 4, stay_s: 45 });
    expect(told.subjects.map(({ facts }) => facts)).toEqual([
      { class: "low", wind_m_s: 6 },
      { standing: 4, stay_s: 45 },
      { standing: 4 },
    ]);
    expect(told.wants).toBe(scene.wants);
  });

  it("takes a word in place of the number that answered the same question, and leaves the others", () => {
    const measured = withFacts(scene, "a", { height_m: 800 });
    expect(measured.subjects[0]?.facts).toEqual({ class: "low", wind_m_s: 6, height_m: 800 });
    expect(withFacts(measured, "a", { wind_m_s: 12 }).subjects[0]?.facts["height_m"]).toBe(800);
    expect(withFacts(measured, "a", { class: "high" }, ["height_m"]).subjects[0]?.facts).toEqual({
      class: "high",
      wind_m_s: 6,
    });
  });

  it.each([
    ["another look of a kind takes its place", { kind: "cloud", look: "still" }, ["people gone", "cloud still"]],
    ["the same one again is let go", { kind: "cloud", look: "streaks" }, ["people gone"]],
    ["one of another kind joins them", { kind: "sea", look: "veil" }, ["cloud streaks", "people gone", "sea veil"]],
  ])("one look a kind is wished for: %s", (_, want, wanted) => {
    expect(toggledWant(scene.wants, want).map(({ kind, look }) => `${kind} ${look}`)).toEqual(wanted);
  });

  it("wishes for each of two layers of cloud alone, and lets a wish go with its layer", () => {
    const low = { id: "low", kind: "cloud", facts: {} } as const;
    const two = { ...FIRST_SCENE, subjects: [low, { ...low, id: "high" }] };
    expect(wishFor({ ...two, subjects: [low] }, low, "streaks")).toEqual({ kind: "cloud", look: "streaks" });
    const streaks = toggledWant([{ kind: "cloud", look: "still" }], wishFor(two, low, "streaks"));
    const both = toggledWant(streaks, wishFor(two, { ...low, id: "high" }, "still"));
    expect(both.map(({ look, id }) => `${look} ${id}`)).toEqual(["streaks low", "still high"]);
    expect(toggledWant(both, wishFor(two, low, "streaks")).map(({ id }) => id)).toEqual(["high"]);
    expect(withoutSubject({ ...two, wants: both }, "high").wants.map(({ id }) => id)).toEqual(["low"]);
  });

  it("lets a wish go with the last thing of its kind, not before", () => {
    const less = withoutSubject(scene, "b");
    expect(less.wants).toEqual(scene.wants);
    expect(withoutSubject(less, "c").wants).toEqual([{ kind: "cloud", look: "streaks" }]);
  });
});
