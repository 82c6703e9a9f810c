import { useSyncExternalStore } from "react";
import { nameAccount, Refused } from "../api/client";
import {
  askEnd,
  askElsewhere,
  askPassword,
  askSession,
  askSignIn,
  askSignOut,
  askStart,
  type Session,
  type Start,
} from "../questions/account";
import { forgetAnswers } from "../questions/ask";
import { unsayActions } from "../ui/say";
import { words } from "../words";
import { forgetLeft } from "./leftBehind";
import { exchange, exchangeFor, listenForReasons } from "./outbox";
import { openShelf } from "./shelf";
import { doesStay, GUEST, replicated, store } from "./store";

/** Who is here. The last known is shown at once, asked about in the background, and told to every page. */
export interface Here {
  signedIn: boolean;
  account: number | null;
  username: string | null;
  demo: boolean;
  /** Whether anybody has said so since this browser first came. */
  known: boolean;
  /** Whether what is done now is a dry run: kept under a name of its own, sent to nobody. */
  practice: boolean;
}

/** The account whose gear, places and log are made up. */
export const DEMO = "demo";

const NOBODY: Here = { signedIn: false, account: null, username: null, demo: false, known: false, practice: false };
const SESSION = "session";
/** Whose dry run goes on in this browser, by the owner's name. */
const PRACTISING = "practising";

/** Who is really here; in a dry run the screens are shown somebody who is nobody. */
let here: Here = NOBODY;
let shown: Here = NOBODY;
let practising = false;
const listeners = new Set<() => void>();
let inTurn: Promise<unknown> = Promise.resolve();
/** Called with what a guest made when it has been handed to an account. */
let onAdopted: (frames: number, things: number) => void = () => undefined;

export function useSession(): Here {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => shown,
  );
}

/** Whether a dry run goes on. */
export function isPractice(): boolean {
  return practising;
}

/** Under which name a dry run of somebody is kept. */
function practiceOf(owner: string): string {
  return PRACTICE_OF + owner;
}

const PRACTICE_OF = "practice of ";

/** Under which name things are kept now. */
function ownerNow(): string {
  return practising ? practiceOf(ownerOf(here)) : ownerOf(here);
}

export function ownerOf({ account }: Pick<Here, "account">): string {
  return account === null ? GUEST : `account ${account}`;
}

function hereOf(session: Session): Here {
  const { signed_in, account, username, demo } = session;
  return { signedIn: signed_in, account, username, demo, known: true, practice: false };
}

/** Open this browser's memory for whoever was here last. */
export async function openMemory(): Promise<void> {
  const shelf = await openShelf(() => store.keepAgain());
  let last: Here | undefined;
  try {
    last = (await shelf.note(SESSION)) as Here | undefined;
    practising = (await shelf.note(PRACTISING)) === ownerOf(last ?? NOBODY);
  } catch {
    last = undefined;
  }
  show(last ?? NOBODY);
  await store.open(shelf, ownerNow());
  store.onNote = (key, value) => {
    // Another page has heard who is here, or has begun or left a dry run.
    if (key === SESSION) void become(value as Here, false);
    if (key === PRACTISING) void inOrder(() => turnToPractice(value !== null, false));
  };
  listenForReasons();
}

/** Ask who is here; on a first visit together with all that it needs. */
export async function renew(first: boolean): Promise<Start | null> {
  const start = first ? await askStart() : null;
  await become(hereOf(start ? start.session : await askSession()), true);
  return start;
}

export async function signIn(username: string, password: string): Promise<void> {
  await become(hereOf(await askSignIn(username, password)), true);
}

/** Sign out everywhere in this browser. What was not sent yet waits under its owner's name. */
export async function signOut(): Promise<void> {
  const leaving = store.owner;
  const session = hereOf(await askSignOut());
  await become(session, true);
  await store.shelf.forgetSent(leaving, replicated(), doesStay).catch(() => undefined);
  await store.shelf.forgetOwner(practiceOf(leaving)).catch(() => undefined);
  await store.setNote(`seen ${leaving}`, 0);
}

/** Another password. Every other browser is signed out by it. */
export async function changePassword(current: string, next: string): Promise<void> {
  await become(hereOf(await askPassword(current, next)), true);
}

/** Sign every other browser of this account out. */
export async function signOutElsewhere(): Promise<void> {
  await askElsewhere();
}

/** Erase the account, on the server and in this browser, what was not sent yet among it. */
export async function endAccount(password: string): Promise<void> {
  const leaving = store.owner;
  await become(hereOf(await askEnd(password)), true);
  for (const name of [leaving, practiceOf(leaving)]) {
    forgetLeft(name);
    store.letGoOf(name);
    await store.shelf.forgetOwner(name).catch(() => undefined);
  }
  await store.setNote(`seen ${leaving}`, 0);
}

/** Begin a dry run with nothing of the one before, or leave it; on every page of this browser. */
export function practise(begin: boolean): Promise<void> {
  return inOrder(async () => {
    if (begin) await store.shelf.forgetOwner(practiceOf(ownerOf(here))).catch(() => undefined);
    await turnToPractice(begin, true);
  });
}

/** Another's things come into the page, and nothing of whoever was here goes among them but a shutter that is open. */
async function turnOver(owner: string): Promise<void> {
  forgetAnswers();
  // A dry run has a clock and a camera of its own.
  const isReal = ![owner, store.owner].some((name) => name.startsWith(PRACTICE_OF));
  await store.become(owner, isReal);
  // Until then a way back leads to where it should.
  unsayActions();
}

/**
 * Whether whoever began something is still here, to be asked after every wait before anything is kept: it is theirs,
 * and a dry run is nobody's. Throws in words where they are not.
 */
export function staying(): () => void {
  const { owner } = store;
  return () => {
    if (store.owner !== owner) throw new Refused(409, [{ field: "", ...words.trouble.elsewhere }]);
  };
}

async function turnToPractice(begin: boolean, heardHere: boolean): Promise<void> {
  practising = begin;
  if (heardHere) await store.setNote(PRACTISING, begin ? ownerOf(here) : null, true);
  await turnOver(ownerNow());
  show(here);
  await exchangeFor(ownerNow(), shown.account, () => void renew(false).catch(() => undefined));
}

/** One after the other, so that two pages that hear at once end alike. */
function inOrder(work: () => Promise<void>): Promise<void> {
  const turn = inTurn.then(work);
  inTurn = turn.catch(() => undefined);
  return turn;
}

function become(next: Here, heardHere: boolean): Promise<void> {
  return inOrder(() => turnTo(next, heardHere));
}

async function turnTo(next: Here, heardHere: boolean): Promise<void> {
  const before = ownerNow();
  // Somebody else's dry run is not this one's.
  const another = ownerOf(next) !== ownerOf(here);
  if (another) practising = false;
  const after = practising ? practiceOf(ownerOf(next)) : ownerOf(next);
  if (heardHere) {
    if (another) await store.setNote(PRACTISING, null);
    await store.setNote(SESSION, next, JSON.stringify(next) !== JSON.stringify(here));
    if (next.account !== null) await adopt(next);
  }
  if (before !== after || store.owner !== after) await turnOver(after);
  const fresh = !exchanging || before !== after;
  exchanging = true;
  show(next);
  if (fresh) await exchangeFor(after, shown.account, () => void renew(false).catch(() => undefined));
}

let exchanging = false;

function show(next: Here): void {
  here = next;
  shown = practising ? { ...NOBODY, known: next.known, practice: true } : next;
  nameAccount(shown.account);
  for (const listener of listeners) listener();
}

/** What a guest made in this browser belongs to whoever signs in next. */
async function adopt(next: Here): Promise<void> {
  try {
    const moved = await store.adopt(GUEST, ownerOf(next));
    if (moved.length === 0) return;
    if (store.owner === ownerOf(next)) await store.become(store.owner);
    const made = moved.filter((doc) => doc.content !== null);
    onAdopted(made.filter((doc) => doc.kind === "frame").length, made.filter((doc) => doc.kind === "kit").length);
    exchange();
  } catch {
    // It stays the guest's, to be handed over another time.
  }
}

export function whenAdopted(tell: typeof onAdopted): void {
  onAdopted = tell;
}
