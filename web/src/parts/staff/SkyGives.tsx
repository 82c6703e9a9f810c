import type { Axis } from "./axis";

interface Props {
  scale: Axis;
  sky: { from: number; to: number };
  x: number;
}

/** Where the reading can honestly lie under this sky: a bar left of the pole. */
export function SkyGives({ scale, sky, x }: Props) {
  const [low, high] = scale.ends;
  if (sky.from >= high || sky.to <= low) return null;
  const [top, bottom] = [scale(Math.min(sky.to, high)), scale(Math.max(sky.from, low))];
  return <rect className="sky-gives" aria-hidden="true" x={x} y={top} width="6" height={Math.max(2, bottom - top)} />;
}
