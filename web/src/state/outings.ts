import { useEffect, useRef } from "react";
import { answer, api, Refused, type Schemas } from "../api/client";
import { browserStore } from "./browserStore";
import { owner } from "./owner";
import { useSession } from "./session";
import { instantOf } from "../words/zone";

/** A plan for a place and a day. It lives in this browser and, for an account, on the server too. */
export type Outing = Schemas["OutingDoc"];

interface Kept {
  outings: (Outing & { owner: string | null })[];
  current: string | null;
  /** The sample was removed here. */
  noSample?: boolean;
}

const UNTOUCHED = "2000-01-01T00:00:00Z";

const FIRST: Outing = {
  id: "5b1de6a0-7f0c-4a34-9c58-2f1d2b7f0a01",
  name: "Vardsund mole, first light",
  latitude: 58.05,
  longitude: 6.8,
  zone: "Europe/Oslo",
  date: "2027-04-17",
  arrive: "04:45",
  turn_back: "08:00",
  sky: "thin",
  scene: "sky_lit",
  ridge: null,
  readings: [],
  waters: [
    { time: "03:10", height_m: 0.3, source: "own" },
    { time: "09:25", height_m: 1.9, source: "own" },
  ],
  floods_at_m: 1.2,
  walk_minutes: 15,
  margin_minutes: 15,
  weather: { source: "own" },
  hazards: ["tide", "swell"],
  packed: [],
  archived: false,
  changed_at: UNTOUCHED,
};

const store = browserStore<Kept>("jackstaff.outings.2", { outings: [], current: null });
const { read, write } = store;

/** The outings of whoever is here: of the account, or of this browser. */
export function useOutings() {
  const kept = store.use();
  const session = useSession().data;
  const account = session?.signed_in ? session.username : null;
  const mine = kept.outings.filter((one) => one.owner === account);
  const sample = account === null && !kept.noSample && !mine.some((one) => one.id === FIRST.id);
  const outings: Outing[] = sample || mine.length === 0 ? [FIRST, ...mine] : mine;
  const current = outings.find((one) => one.id === kept.current) ?? outings[0] ?? FIRST;
  return {
    outings,
    current,
    choose: (id: string) => write({ ...read(), current: id }),
    keep: (outing: Outing) => keep({ ...outing, changed_at: new Date().toISOString() }),
    forget,
  };
}

function keep(outing: Outing): void {
  put([{ ...outing, owner: owner() }], outing.id);
}

/** Take these as they are, each in place of the one with its key. */
function put(coming: Kept["outings"], current = read().current): void {
  const all = read().outings;
  const rest = all.filter((one) => !coming.some((fresh) => fresh.id === one.id));
  // The order stays while one of them is edited.
  const merged = all.map((one) => coming.find((fresh) => fresh.id === one.id) ?? one);
  const fresh = coming.filter((one) => !all.some((held) => held.id === one.id));
  const outings = rest.length === all.length ? [...all, ...fresh] : [...merged, ...fresh];
  write({ ...read(), outings, current });
}

function forget(outing: Outing): void {
  const outings = read().outings.filter((one) => one.id !== outing.id);
  write({ ...read(), outings, current: null, ...(outing.id === FIRST.id && { noSample: true }) });
  if (owner() !== null)
    void answer(api.DELETE("/api/outings/{key}", { params: { path: { key: outing.id } } })).catch(() => undefined);
}

/**
 * Keeps an account's outings alike in browser and server: whichever was changed last wins, and what a guest planned
 * here is adopted at sign-in. Mounted once.
 */
export function useOutingsInStep(account: string | null): void {
  const kept = store.use();
  const sent = useRef(new Map<string, string>());

  useEffect(() => {
    if (account === null) return;
    const pull = async () => {
      const { outings } = await answer(api.GET("/api/outings"));
      const here = new Map(read().outings.map((one) => [one.id, one]));
      const newer = outings.filter((one) => {
        sent.current.set(one.id, one.changed_at);
        const held = here.get(one.id);
        return held?.owner !== account || Date.parse(held.changed_at) < Date.parse(one.changed_at);
      });
      if (newer.length > 0) put(newer.map((one) => ({ ...one, owner: account })));
      const guests = read().outings.filter((one) => one.owner === null && one.changed_at !== UNTOUCHED);
      if (guests.length > 0) {
        // The sample may be in many browsers: a plan made of it takes a key of its own.
        const adopted = guests.map((one) => ({
          ...one,
          owner: account,
          id: one.id === FIRST.id ? crypto.randomUUID() : one.id,
        }));
        const rest = read().outings.filter((one) => !guests.includes(one));
        write({ ...read(), outings: [...rest, ...adopted], current: adopted[0]?.id ?? read().current });
      }
    };
    const look = () => void pull().catch(() => undefined);
    look();
    window.addEventListener("focus", look);
    return () => window.removeEventListener("focus", look);
  }, [account]);

  useEffect(() => {
    if (account === null) return;
    const push = async () => {
      for (const one of read().outings) {
        if (one.owner !== account || sent.current.get(one.id) === one.changed_at) continue;
        try {
          await answer(api.PUT("/api/outings/{key}", { params: { path: { key: one.id } }, body: plain(one) }));
          sent.current.set(one.id, one.changed_at);
        } catch (error) {
          // A plan that is not sound yet stays here until it is; what was typed is never lost.
          if (error instanceof Refused) sent.current.set(one.id, one.changed_at);
        }
      }
    };
    const timer = window.setTimeout(() => void push(), 700);
    return () => window.clearTimeout(timer);
  }, [account, kept]);
}

/** The plan without whose it is. */
function plain(kept: Kept["outings"][number]): Outing {
  const outing: Partial<Kept["outings"][number]> = { ...kept };
  delete outing.owner;
  return outing as Outing;
}

/** The instants between which the outing plans [ms]; past midnight when turning back is earlier than arriving. */
export function span(outing: Outing): [number, number] {
  const from = instantOf(outing.date, outing.arrive, outing.zone);
  const to = instantOf(outing.date, outing.turn_back, outing.zone);
  return [from, to > from ? to : to + DAY];
}

/** The instant a clock time of the place means: the one nearest to the middle of the outing. */
export function instantNear(outing: Outing, time: string): number {
  const [from, to] = span(outing);
  const middle = (from + to) / 2;
  const at = instantOf(outing.date, time, outing.zone);
  return [at - DAY, at, at + DAY].reduce((best, one) =>
    Math.abs(one - middle) < Math.abs(best - middle) ? one : best,
  );
}

const DAY = 86_400_000;

/** Whether the outing is going on, or about to. */
export function isLive(outing: Outing, now: number): boolean {
  const [from, to] = span(outing);
  return now >= from - 2 * 3_600_000 && now <= to + 3_600_000;
}

export function placeAsked(
  outing: Outing,
): Pick<Schemas["LightAsked"], "latitude" | "longitude" | "sky" | "scene" | "readings" | "ridge"> {
  const { latitude, longitude, sky, scene, readings, ridge } = outing;
  return { latitude, longitude, sky, scene, readings, ridge };
}
