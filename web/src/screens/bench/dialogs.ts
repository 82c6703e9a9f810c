import { lazy } from "react";

/** What the bench opens now and then, fetched then or ahead of time. */
const fetched = {
  entry: () => import("./Entry"),
  ownBag: () => import("./OwnBag"),
  meteredWith: () => import("./MeteredWith"),
  extras: () => import("./Extras"),
  setUp: () => import("./SetUp"),
  light: () => import("./LightDialog"),
  purpose: () => import("./PurposeDialog"),
  looks: () => import("../../parts/looks/LooksDialog"),
  together: () => import("./NameStack"),
  glass: () => import("./AddGlass"),
  drawing: () => import("../../parts/looks/Drawing"),
};

export const fetchArming = () => import("./toArm");

export const Entry = lazy(async () => ({ default: (await fetched.entry()).Entry }));
export const OwnBag = lazy(async () => ({ default: (await fetched.ownBag()).OwnBag }));
export const MeteredWith = lazy(async () => ({ default: (await fetched.meteredWith()).MeteredWith }));
export const Extras = lazy(async () => ({ default: (await fetched.extras()).Extras }));
export const SetUp = lazy(async () => ({ default: (await fetched.setUp()).SetUp }));
export const LightDialog = lazy(async () => ({ default: (await fetched.light()).LightDialog }));
export const PurposeDialog = lazy(async () => ({ default: (await fetched.purpose()).PurposeDialog }));
export const LooksDialog = lazy(async () => ({ default: (await fetched.looks()).LooksDialog }));
export const AddGlass = lazy(async () => ({ default: (await fetched.glass()).AddGlass }));
export const NameStack = lazy(async () => ({ default: (await fetched.together()).NameStack }));
export const Drawing = lazy(async () => ({ default: (await fetched.drawing()).Drawing }));

/** All of them, one after the other. */
export async function fetchDialogs(): Promise<void> {
  for (const fetchPart of [...Object.values(fetched), fetchArming]) await fetchPart();
}
