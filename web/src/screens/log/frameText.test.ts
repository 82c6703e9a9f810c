// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { signedThirds, thirdsText } from "../../words/times";
import { baseText, closedText, glassText, verdictText } from "./frameText";
import { sampleFrame as frame } from "../../state/frame.test.data";
import { documentOf } from "../../state/frames";
import { searchOf } from "./searching";
import { share } from "./share";

const late = (stops: number, verdict: string) => ({ stops, late_seconds: 1, verdict, text: "" });
const glass = (name: string) => ({ name, stops: 9, in_reading: false });

describe("a frame in words", () => {
  it.each([
    [0, "0"],
    [1 / 3, "⅓"],
    [-2 / 3, "⅔"],
    [1, "1"],
    [-4 / 3, "1 ⅓"],
    [2, "2"],
  ])("%d stops are %s in thirds", (stops, text) => {
    expect(thirdsText(stops)).toBe(text);
    expect(signedThirds(stops)).toBe(`${stops < 0 ? "−" : stops > 0 ? "+" : ""}${text}`);
  });

  it.each([
    [null, "how did it come out?"],
    [undefined, "how did it come out?"],
    [0, "good"],
    [0.1, "good"],
    [-1 / 3, "⅓ too dark"],
    [5 / 3, "1 ⅔ too bright"],
  ])("came out %s reads %s", (stops, text) => expect(verdictText(stops)).toBe(text));

  it.each([
    [frame({ state: "aborted" }), "given up"],
    [frame({ state: "open" }), "open now"],
    [frame(), ""],
    [frame({ error: late(0.01, "on_time") }), "closed on time"],
    [frame({ error: late(0.22, "slight") }), "closed 0.22 stop late"],
    [frame({ error: late(-1.2, "off") }), "closed 1.2 stop early"],
  ])("how it closed", (entry, text) => expect(closedText(entry)).toBe(text));

  it("names its reading and its glass", () => {
    expect(baseText(frame())).toBe("from 1/40 f/9 ISO 64");
    expect(baseText(frame({ reading: { ev100: 9.4, step: "third" } }))).toBe("from EV 9.4");
    expect(baseText(frame({ reading: { step: "third" } }))).toBe("");
    expect(glassText(frame())).toBe("no filters");
    expect(glassText(frame({ stack: [glass("Slot ND 9"), glass("Slot ND 4")] }))).toBe("Slot ND 9 + Slot ND 4");
  });

  it.each([
    [0, "0 %"],
    [0.0004, "under 0.1 %"],
    [0.0312, "3.1 %"],
  ])("a share of %d is %s", (part, text) => expect(share(part)).toBe(text));
});

describe("what is sent", () => {
  it("is the record alone, and the frame itself stays whole", () => {
    const whole = frame({ error: late(0, "on_time"), pictured: true, refused: null });
    const doc = documentOf(whole);
    for (const name of ["actual_seconds", "error", "pictured", "refused"]) expect(doc).not.toHaveProperty(name);
    expect(whole.pictured).toBe(true);
    expect(doc.stack).toBe(whole.stack);
  });

  it.each([
    ["", {}],
    ["text=mole&verdict=dark", { text: "mole", verdict: "dark" }],
    ["defect=&sort=worst&else=1", { sort: "worst" }],
  ])("a search of '%s'", (address, asked) => expect(searchOf(new URLSearchParams(address))).toEqual(asked));
});
