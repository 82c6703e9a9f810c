/** How dark the sky is over a time, from the sun's altitude at its beginning and its named moments. */

type Tone = "night" | "astronomical" | "nautical" | "civil" | "day";

export interface Toned {
  from: number;
  to: number;
  tone: Tone;
}

const AFTER: Record<string, Tone> = {
  astronomical_dawn: "astronomical",
  nautical_dawn: "nautical",
  civil_dawn: "civil",
  sunrise: "day",
  sunset: "civil",
  civil_dusk: "nautical",
  nautical_dusk: "astronomical",
  astronomical_dusk: "night",
};

function toneAt(altitude: number): Tone {
  if (altitude >= -0.833) return "day";
  if (altitude >= -6) return "civil";
  if (altitude >= -12) return "nautical";
  return altitude >= -18 ? "astronomical" : "night";
}

export function tones(
  begins: number,
  ends: number,
  altitude: number,
  events: readonly { name: string; at: string | null }[],
): Toned[] {
  const turns = events
    .flatMap(({ name, at }) => {
      const tone = AFTER[name];
      return at !== null && tone !== undefined ? [{ at: Date.parse(at), tone }] : [];
    })
    .filter(({ at }) => at > begins && at < ends)
    .toSorted((a, b) => a.at - b.at);
  const starts = [{ at: begins, tone: toneAt(altitude) }, ...turns];
  return starts.map(({ at, tone }, place) => ({ from: at, to: starts[place + 1]?.at ?? ends, tone }));
}
