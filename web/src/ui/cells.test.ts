import { expect, it } from "vitest";
import { cellsOf } from "./cells";

it("a cell is the mean linear light of its pixels, and nothing where they clip", () => {
  const [width, height] = [160, 120];
  const data = new Uint8ClampedArray(width * height * 4).fill(188);
  const paint = (from: number, to: number, code: number) => {
    for (let y = 0; y < 10; y += 1) data.fill(code, (y * width + from) * 4, (y * width + to) * 4);
  };
  paint(0, 10, 255);
  paint(10, 15, 0);
  const cells = cellsOf(data, width, height, 16, 12);
  expect(cells).toHaveLength(192);
  expect(cells[0]).toBeNull();
  // sRGB 188 is half of white, and half of the second cell is black.
  expect(cells[1]).toBeCloseTo(0.25, 2);
  expect(cells[2]).toBeCloseTo(0.5, 2);
});
