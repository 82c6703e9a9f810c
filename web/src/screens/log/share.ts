/** A share of a picture in percent, as fine as it matters. */
export function share(part: number): string {
  if (part === 0) return "0 %";
  return part < 0.001 ? "under 0.1 %" : `${(part * 100).toFixed(1)} %`;
}
