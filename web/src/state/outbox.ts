import { useSyncExternalStore } from "react";
import { Refused, Unreachable } from "../api/client";
import { askChanges, type Copy, sendChanges } from "../questions/account";
import type { Doc } from "./shelf";
import { type Copied, kindOf, replicated, store } from "./store";

/**
 * The one way to the account's server and back. What waits is sent in order and in small parcels, again with growing
 * pauses until it is heard; what the server refuses stays, with the reason, and holds up nothing else. What has changed
 * there is taken page by page. Nobody else's documents are ever sent: each parcel names its account.
 */

const PARCEL = 40;
const PAGE = 100;
const FIRST_PAUSE_MS = 1000;
const LONGEST_PAUSE_MS = 60_000;
/** Hands that type are let finish; an opening goes at once. */
const QUIET_MS = 300;
const OFTEN_MS = 6000;
/** Longer than the notice of a removal offers the way back. */
const REST_MS = 10_000;
const TURNS = 6;
/** Not signed in, a page out of date, somebody else signed in. */
const STRANGER = new Set([401, 403, 409]);
const SEEN = (owner: string) => `seen ${owner}`;
const EPOCH = (owner: string) => `epoch ${owner}`;

export interface Exchange {
  /** The account's count as far as it is known here. */
  head: number;
  /** Documents still to come, while a new device fills up. */
  coming: number;
  /** Whether the last attempt reached nobody. */
  away: boolean;
  /** What the server itself said was wrong with it then, null where it said nothing. */
  why: string | null;
}

let state: Exchange = { head: 0, coming: 0, away: false, why: null };
let account: number | null = null;
let pause = FIRST_PAUSE_MS;
let timer: number | undefined;
let resting: number | undefined;
let busy: Promise<void> | null = null;
let wanted = { push: false, pull: false };
/** Whoever needs to hear of other devices soon: the running frame, and Run while it waits for one. */
let watchers = 0;
let watching: number | undefined;
let heardAt = 0;
const listeners = new Set<() => void>();
/** Called when the server says that somebody else is signed in, or nobody. */
let onStranger: () => void = () => undefined;

function set(part: Partial<Exchange>): void {
  state = { ...state, ...part };
  for (const listener of listeners) listener();
}

export function useExchange(): Exchange {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => state,
  );
}

/** From now on for this account; null for nobody. */
export async function exchangeFor(owner: string, number: number | null, stranger: () => void): Promise<void> {
  onStranger = stranger;
  account = number;
  hear();
  heard = number === null ? Promise.resolve() : new Promise((resolve) => (hear = resolve));
  pause = FIRST_PAUSE_MS;
  window.clearTimeout(timer);
  timer = undefined;
  const cursor = number === null ? 0 : Number((await store.note(SEEN(owner))) ?? 0);
  if (account !== number) return;
  set({ head: cursor, coming: 0, away: false, why: null });
  store.onWaiting = () => soon();
  if (number !== null) exchange();
}

/** How long a press waits for news of the account [ms]: weak signal must not hold up a shutter. */
const PRESS_WAITS_MS = 3000;
let heard: Promise<void> = Promise.resolve();
let hear: () => void = () => undefined;

/** Kept once the account has been heard since it came, or nobody answers. */
export function heardOnce(): Promise<void> {
  const late = new Promise<void>((resolve) => window.setTimeout(resolve, PRESS_WAITS_MS));
  return Promise.race([heard, late]);
}

/** Something waits: send it when hands rest, or at once. */
function soon(after = QUIET_MS): void {
  if (account === null) return;
  wanted.push = true;
  window.clearTimeout(timer);
  timer = window.setTimeout(run, after);
}

/** Send what waits and take what is new, now. */
export function exchange(): void {
  if (account === null) return;
  wanted = { push: true, pull: true };
  window.clearTimeout(timer);
  run();
}

/** Kept when all that waits has been heard, except for what was refused; broken when nobody hears. */
export async function sent(): Promise<void> {
  for (let turn = 0; turn < TURNS; turn += 1) {
    exchange();
    await busy;
    if (state.away) throw new Unreachable();
    const waiting = await waitingNow(store.owner);
    if (waiting.every((doc) => doc.waiting?.refused != null || restOf(doc) > 0)) return;
  }
  throw new Unreachable();
}

function run(): void {
  timer = undefined;
  if (busy) return;
  busy = work().finally(() => {
    busy = null;
    if (account !== null && (wanted.push || wanted.pull) && timer === undefined) soon(state.away ? pause : 0);
  });
}

async function work(): Promise<void> {
  const now = account;
  const { owner } = store;
  if (now === null || (!wanted.push && !wanted.pull)) return;
  const doing = wanted;
  wanted = { push: false, pull: false };
  try {
    const grown = doing.push ? await push(now, owner).catch(hearFirst) : false;
    if (grown === null) {
      await pull(now, owner);
      await push(now, owner);
    }
    if (doing.pull || grown) await pull(now, owner);
    if (doing.pull && account === now) hear();
    pause = FIRST_PAUSE_MS;
    heardAt = Date.now();
    if (state.away) set({ away: false, why: null });
  } catch (error) {
    if (account !== now) return;
    if (!(error instanceof Unreachable) && !(error instanceof Refused)) throw error;
    hear();
    if (error instanceof Refused && STRANGER.has(error.status)) onStranger();
    wanted = { push: wanted.push || doing.push, pull: wanted.pull || doing.pull };
    set({ away: true, why: error instanceof Refused && error.status >= 500 ? error.message : null });
    window.clearTimeout(timer);
    timer = window.setTimeout(run, pause);
    pause = Math.min(LONGEST_PAUSE_MS, pause * 2);
  }
}

/** Where the server counts anew, what has changed there is taken before anything is sent. */
function hearFirst(error: unknown): null {
  if (error instanceof Refused && error.status === 412) return null;
  throw error;
}

/** Everything that waits, parcel by parcel. Hands back whether the server knows more than is known here. */
async function push(now: number, owner: string): Promise<boolean> {
  for (;;) {
    const all = (await waitingNow(owner)).filter((doc) => doc.waiting?.refused === null && kindOf(doc.kind)?.wire);
    const waiting = all.filter((doc) => restOf(doc) === 0);
    window.clearTimeout(resting);
    if (all.length > waiting.length) resting = window.setTimeout(soon, Math.max(...all.map(restOf)));
    const parcel = waiting.slice(0, PARCEL);
    if (parcel.length === 0 || account !== now) return false;
    const documents = parcel.flatMap((doc) => changeOf(doc) ?? []);
    const { results, head, epoch } = await sendChanges(now, documents, await epochOf(owner));
    // Whoever was heard before they asked counts by this epoch from now on.
    await store.setNote(EPOCH(owner), epoch);
    for (const result of results) {
      // By its own name, never by its place: an answer must not settle another document.
      const sent = parcel.find((doc) => doc.waiting?.write === result.write);
      if (!sent) continue;
      const { held } = result;
      if (result.refused.some(({ field }) => field === "base")) {
        // Written in another page while the count began anew: it goes out as something new.
        await store.sendAnew(owner, sent.kind, sent.id, 0);
        continue;
      }
      await store.settle(owner, sent.kind, sent.id, (doc) => {
        // Written again while it was on its way: that one is sent next, and says what it follows.
        if (doc.waiting?.write !== sent.waiting?.write) return doc;
        const { waiting } = doc;
        if (result.refused.length > 0) return { ...doc, waiting: waiting && { ...waiting, refused: result.refused } };
        return held ? docOf(owner, held) : doc.content === null ? null : { ...doc, waiting: null };
      });
    }
    if (waiting.length <= PARCEL) return head > state.head;
  }
}

/** How long a removal is still held back [ms]: a picture that its frame takes along is not to be lost to a slip. */
function restOf({ kind, content, stamp, waiting }: Doc): number {
  if (content !== null || waiting?.before == null || kindOf(kind)?.rests?.(waiting.before) !== true) return 0;
  const age = Date.now() - Date.parse(stamp.split("#")[0] ?? "");
  return age >= 0 && age < REST_MS ? REST_MS - age : 0;
}

/** What waits in the browser, or in the page where the browser keeps nothing. */
async function waitingNow(owner: string): Promise<readonly Doc[]> {
  try {
    if (store.trouble === null) return await store.shelf.waiting(owner);
  } catch {
    // Then what the page has.
  }
  return owner === store.owner ? store.waiting() : [];
}

function changeOf(doc: Doc) {
  const kind = kindOf(doc.kind);
  if (!doc.waiting || !kind?.wire) return null;
  return {
    kind: doc.kind as Copy["kind"],
    id: doc.id,
    write: doc.waiting.write,
    base: doc.number,
    follows: doc.waiting.follows,
    changed_at: doc.stamp.split("#")[0] || (doc.changedAt ?? new Date().toISOString()),
    content: doc.content === null ? null : kind.wire(doc.content),
  };
}

/** What has changed there, page by page. */
async function pull(now: number, owner: string): Promise<void> {
  let cursor = Number((await store.note(SEEN(owner))) ?? 0);
  for (;;) {
    const page = await askChanges(cursor, PAGE, await epochOf(owner));
    if (account !== now) return;
    if (page.account !== now) {
      onStranger();
      return;
    }
    if (page.shared != null || page.head < cursor) {
      // A copy was put back there: what it lost it is given again, what was written since is taken.
      const shared = page.shared ?? page.head;
      await giveBack(owner, shared);
      cursor = Math.min(cursor, shared);
      await store.setNote(SEEN(owner), cursor);
      await store.setNote(EPOCH(owner), page.epoch);
      continue;
    }
    await store.take(
      owner,
      page.documents.map((copy) => docOf(owner, copy)),
    );
    cursor = page.until;
    await store.setNote(SEEN(owner), cursor);
    await store.setNote(EPOCH(owner), page.epoch);
    set({ head: Math.max(page.head, cursor), coming: Math.max(0, page.head - cursor) });
    if (cursor >= page.head) return;
  }
}

/** What was counted past `shared` is unknown there: it is sent again, on top of what both know. */
async function giveBack(owner: string, shared: number): Promise<void> {
  for (const doc of await store.shelf.whole(owner, replicated()))
    if (doc.number > shared && doc.kind !== ASIDE) await store.sendAnew(owner, doc.kind, doc.id, shared);
  wanted.push = true;
}

/** Told by the server alone: what was set aside and lost with it stays here until somebody has seen it. */
const ASIDE = "aside";

async function epochOf(owner: string): Promise<string | null> {
  return ((await store.note(EPOCH(owner))) as string | undefined) ?? null;
}

/** A copy of the server's as this browser keeps it. */
export function docOf(owner: string, copy: Copy): Copied {
  const content = contentOf(copy);
  const kind = kindOf(copy.kind);
  return {
    owner,
    kind: copy.kind,
    id: copy.id,
    version: kind?.version ?? 1,
    content,
    sort: content === null ? "" : (kind?.sort?.(content) ?? copy.changed_at),
    number: copy.number,
    waiting: null,
    changedAt: copy.changed_at,
  };
}

function contentOf(copy: Copy): unknown {
  if (!copy.content) return null;
  return copy.kind === "kit" ? { item: copy.content, place: copy.place } : copy.content;
}

/** Ask again now and then while somebody needs to hear of other devices; never from a hidden page. */
export function watch(): () => void {
  watchers += 1;
  watching ??= window.setInterval(() => {
    if (document.visibilityState === "visible") exchange();
  }, OFTEN_MS);
  exchange();
  return () => {
    watchers -= 1;
    if (watchers > 0) return;
    window.clearInterval(watching);
    watching = undefined;
  };
}

/** A page that is looked at again, or a network that is back, is a reason to ask. */
export function listenForReasons(): void {
  const look = () => {
    if (document.visibilityState === "visible" && (state.away || Date.now() - heardAt > OFTEN_MS)) exchange();
  };
  window.addEventListener("focus", look);
  document.addEventListener("visibilitychange", look);
  window.addEventListener("online", () => {
    pause = FIRST_PAUSE_MS;
    exchange();
  });
}
