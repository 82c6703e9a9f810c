import type { Schemas } from "../api/client";
import { browserStore } from "../shell/browserStore";
import { instantOf } from "./zone";

/** A plan for a place and a day, kept in this browser. Tide is what the person entered from their own table. */
export interface Outing {
  id: string;
  name: string;
  latitude: number;
  longitude: number;
  zone: string;
  date: string;
  /** Wall-clock times of the place. */
  arrive: string;
  turnBack: string;
  sky: Schemas["Sky"];
  scene: Schemas["Scene"];
  readings: { at: string; ev100: number }[];
  waters: { time: string; heightM: number }[];
  floodsAtM: number | null;
  walkMinutes: number;
  marginMinutes: number;
  archived: boolean;
}

interface Kept {
  outings: Outing[];
  current: string;
}

const FIRST: Outing = {
  id: "vardsund",
  name: "Vardsund mole, first light",
  latitude: 58.05,
  longitude: 6.8,
  zone: "Europe/Oslo",
  date: "2027-04-17",
  arrive: "04:45",
  turnBack: "08:00",
  sky: "thin",
  scene: "sky_lit",
  readings: [],
  waters: [
    { time: "03:10", heightM: 0.3 },
    { time: "09:25", heightM: 1.9 },
  ],
  floodsAtM: 1.2,
  walkMinutes: 15,
  marginMinutes: 15,
  archived: false,
};

const store = browserStore<Kept>("jackstaff.outings.1", { outings: [FIRST], current: FIRST.id });
const { read, write } = store;

export function useOutings() {
  const kept = store.use();
  const current = kept.outings.find((one) => one.id === kept.current) ?? kept.outings[0] ?? FIRST;
  return {
    outings: kept.outings,
    current,
    choose: (id: string) => write({ ...read(), current: id }),
    keep: (outing: Outing) => {
      const all = read().outings;
      const outings = all.some((one) => one.id === outing.id)
        ? all.map((one) => (one.id === outing.id ? outing : one))
        : [...all, outing];
      write({ outings, current: outing.id });
    },
  };
}

/** The instants between which the outing plans [ms]; past midnight when turning back is earlier than arriving. */
export function span(outing: Outing): [number, number] {
  const from = instantOf(outing.date, outing.arrive, outing.zone);
  const to = instantOf(outing.date, outing.turnBack, outing.zone);
  return [from, to > from ? to : to + 86_400_000];
}

export function placeAsked(
  outing: Outing,
): Pick<Schemas["LightAsked"], "latitude" | "longitude" | "sky" | "scene" | "readings"> {
  const { latitude, longitude, sky, scene, readings } = outing;
  return { latitude, longitude, sky, scene, readings };
}
