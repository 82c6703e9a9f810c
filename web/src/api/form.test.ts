import { describe, expect, it } from "vitest";
import { asForm } from "./form";

const text = (parts: Parameters<typeof asForm>[0]) =>
  [...asForm(parts).bodySerializer().entries()].map(([name, value]) => [
    name,
    typeof value === "string" ? value : "file",
  ]);

describe("a question with files", () => {
  it.each([
    [{}, []],
    [
      { keep: true, seconds: 30 },
      [
        ["keep", "true"],
        ["seconds", "30"],
      ],
    ],
    [{ keep: false, text: "" }, [["keep", "false"]]],
    [{ file: undefined, other: null }, []],
  ])("%j", (parts, entries) => expect(text(parts)).toEqual(entries));

  it("carries one file, and several under one name", () => {
    const file = new Blob(["x"]);
    expect(text({ file, bracket: [file, file] })).toEqual([
      ["file", "file"],
      ["bracket", "file"],
      ["bracket", "file"],
    ]);
  });
});
