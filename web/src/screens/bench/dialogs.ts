import { lazily, patiently } from "../../ui/lazily";

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
  share: () => import("../../parts/sharing/ShareSetUp"),
  drawing: () => import("../../parts/looks/Drawing"),
};

const arming = () => import("./toArm");
export const fetchArming = () => patiently(arming);

/** What the last frame says, where there is one. */
export const LastFinding = lazily(async () => (await import("./LastFinding")).LastFinding, true);
export const Entry = lazily(async () => (await fetched.entry()).Entry, true);
export const OwnBag = lazily(async () => (await fetched.ownBag()).OwnBag, true);
export const MeteredWith = lazily(async () => (await fetched.meteredWith()).MeteredWith, true);
export const Extras = lazily(async () => (await fetched.extras()).Extras, true);
export const SetUp = lazily(async () => (await fetched.setUp()).SetUp, true);
export const LightDialog = lazily(async () => (await fetched.light()).LightDialog, true);
export const PurposeDialog = lazily(async () => (await fetched.purpose()).PurposeDialog, true);
export const LooksDialog = lazily(async () => (await fetched.looks()).LooksDialog, true);
export const AddGlass = lazily(async () => (await fetched.glass()).AddGlass, true);
export const NameStack = lazily(async () => (await fetched.together()).NameStack, true);
export const ShareSetUp = lazily(async () => (await fetched.share()).ShareSetUp, true);
export const Drawing = lazily(async () => (await fetched.drawing()).Drawing, true);

/** All of them: what can be fetched ahead of time. */
export const DIALOGS: (() => Promise<unknown>)[] = [arming, ...Object.values(fetched)];
