/** Linear light of an sRGB code (IEC 61966-2-1). */
const LINEAR = Float32Array.from({ length: 256 }, (_, code) => {
  const share = code / 255;
  return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
});
/** A pixel from here on clips, and a cell with more of them than this is left out. */
const CLIPPED_CODE = 250;
const CLIPPED_SHARE = 0.02;

/**
 * A picture as a grid: the mean linear luminance of each cell, row by row, null where it clips. `data` is red, green,
 * blue, alpha.
 */
export function cellsOf(
  data: Uint8ClampedArray,
  width: number,
  height: number,
  columns: number,
  rows: number,
): (number | null)[] {
  const [wide, high] = [Math.floor(width / columns), Math.floor(height / rows)];
  const cells: (number | null)[] = [];
  for (let row = 0; row < rows; row += 1)
    for (let column = 0; column < columns; column += 1) {
      let [sum, clipped] = [0, 0];
      for (let y = row * high; y < (row + 1) * high; y += 1)
        for (let at = (y * width + column * wide) * 4, end = at + wide * 4; at < end; at += 4) {
          const [red = 0, green = 0, blue = 0] = [data[at], data[at + 1], data[at + 2]];
          sum += 0.2126 * (LINEAR[red] ?? 0) + 0.7152 * (LINEAR[green] ?? 0) + 0.0722 * (LINEAR[blue] ?? 0);
          if (red >= CLIPPED_CODE || green >= CLIPPED_CODE || blue >= CLIPPED_CODE) clipped += 1;
        }
      const pixels = wide * high;
      cells.push(clipped > pixels * CLIPPED_SHARE ? null : sum / pixels);
    }
  return cells;
}
