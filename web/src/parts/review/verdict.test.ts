import { expect, test } from "vitest";
import { scaleEnd } from "./verdict";

test.each([
  [null, 6],
  [-5, 6],
  [6, 15],
  [-12, 15],
])("after a verdict of %s thirds the scale goes to %i", (thirds, end) => {
  expect(scaleEnd(thirds)).toBe(end);
});
