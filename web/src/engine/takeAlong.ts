import { here } from "../api/here";
import { Engine } from "./engine";
import { Engines } from "./engines";
import { ENGINE_FILES, ENGINE_URL } from "./protocol";
import { answerBeside } from "./seam";

/** What is taken along so that everything works without a signal: the shell, and the core with its Python. */

const TAKEN = "jackstaff_taken_along";
const CACHE = "jackstaff-engine";
/** When the hands rest after a start [ms]. */
const IDLE_MS = 2500;
/** And after the first frame was set up [ms]: what the page itself needs comes first. */
const AHEAD_MS = 60_000;
const HELD_BACK = "jackstaff_held_back";

type Stage = "none" | "fetching" | "starting" | "ready" | "failed";

export interface TakenAlong {
  stage: Stage;
  /** Fetched so far, and in all where that is known [bytes]. */
  got: number;
  of: number | null;
  /** Whether a newer build waits to be taken. */
  newer: boolean;
  /** Whether another page took a newer build, of which this page is not made. */
  passed: boolean;
  /** Whether the server was there when it was last asked. */
  signal: boolean;
}

let now: TakenAlong = { stage: "none", got: 0, of: null, newer: false, passed: false, signal: true };
const listeners = new Set<() => void>();
let engine: Engines | null = null;

function show(part: Partial<TakenAlong>): void {
  now = { ...now, ...part };
  listeners.forEach((listener) => listener());
}

export function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

export function takenAlong(): TakenAlong {
  return now;
}

/** Whether this browser can: it needs a secure page. */
export function canTake(): boolean {
  return "serviceWorker" in navigator && "caches" in globalThis;
}

/** What was taken along before is there again: at once when somebody needs it, else when the hands rest. */
export function recall(): void {
  if (!canTake() || !wasTaken()) return;
  hearOfPassing();
  beside();
  window.setTimeout(() => void take(), IDLE_MS);
}

/** Whether somebody said that it is not to be fetched by itself. */
export function isHeldBack(): boolean {
  return noted(HELD_BACK);
}

export function holdBack(held: boolean): void {
  try {
    if (held) localStorage.setItem(HELD_BACK, "1");
    else localStorage.removeItem(HELD_BACK);
  } catch {
    // A browser that keeps nothing has nothing fetched either.
  }
  show({});
}

let ahead = false;

/**
 * Somebody sets up frames with this: when the hands rest it is fetched by itself, so that a signal lost later takes
 * nothing away. Not where the browser says that data are dear, and not while `isBusy`.
 */
export function takeAhead(isBusy: () => boolean): void {
  if (ahead || !canTake() || wasTaken()) return;
  ahead = true;
  const look = () => {
    if (isHeldBack() || isDear() || now.stage !== "none") return;
    if (isBusy() || document.visibilityState !== "visible") window.setTimeout(look, AHEAD_MS);
    else void take();
  };
  window.setTimeout(look, AHEAD_MS);
}

/** What browsers say of the network, where they do. */
interface Connection {
  saveData?: boolean;
  type?: string;
  effectiveType?: string;
}

/** Whether data are dear, as far as the browser says. */
function isDear(): boolean {
  const { connection } = navigator as { connection?: Connection };
  if (!connection) return false;
  return connection.saveData === true || connection.type === "cellular" || /2g/.test(connection.effectiveType ?? "");
}

let taking: Promise<void> | null = null;

/** Fetch what is not here yet, and start it; whoever asks while it comes waits for the same. */
export function take(): Promise<void> {
  taking ??= takeNow().finally(() => {
    taking = null;
  });
  return taking;
}

async function takeNow(): Promise<void> {
  if (now.stage === "ready") return;
  try {
    show({ stage: "fetching", got: 0, of: null });
    const registered = await registration();
    hearOfNewer(registered);
    hearOfPassing();
    const shell = installed(registered);
    await Promise.all([shell, fetchEngine()]);
    show({ stage: "starting" });
    await started();
    beside();
    noteTaken();
    show({ stage: "ready" });
  } catch {
    starting = null;
    show({ stage: "failed" });
  }
}

/** The service worker, as it was registered before where nobody can be asked for it now. */
async function registration(): Promise<ServiceWorkerRegistration> {
  try {
    return await navigator.serviceWorker.register("/sw.js");
  } catch (error) {
    const before = await navigator.serviceWorker.getRegistration();
    if (before) return before;
    throw error;
  }
}

/** Kept once the shell is here whole; broken where it could not be fetched. */
function installed({ active, installing }: ServiceWorkerRegistration): Promise<void> {
  if (active || !installing) return navigator.serviceWorker.ready.then(() => undefined);
  return new Promise((resolve, reject) => {
    installing.addEventListener("statechange", () => {
      if (installing.state === "redundant") reject(new Error("the shell did not come whole"));
      else if (installing.state === "activated") resolve();
    });
  });
}

/** A browser that keeps nothing has taken nothing along. */
function wasTaken(): boolean {
  return noted(TAKEN);
}

function noted(key: string): boolean {
  try {
    return localStorage.getItem(key) !== null;
  } catch {
    return false;
  }
}

function noteTaken(): void {
  try {
    localStorage.setItem(TAKEN, "1");
  } catch {
    // It works as long as this page is open.
  }
}

let starting: Promise<Engines> | null = null;

function started(): Promise<Engines> {
  starting ??= (async () => {
    const made = new Engines(() => new Engine(new Worker(new URL("./worker.ts", import.meta.url), { type: "module" })));
    await made.quick.ready;
    engine = made;
    return made;
  })();
  starting.catch(() => {
    // Whoever asks next tries again.
    starting = null;
  });
  return starting;
}

here.ask = async (name, body, signal) => {
  // Whoever needs the core sees how far it has come; where it cannot be kept it is started all the same.
  if (engine === null && canTake()) await take();
  return (await started()).ask(name, body, signal);
};

let seam: (() => void) | null = null;

function beside(): void {
  seam ??= answerBeside({
    there: () => engine,
    coming: started,
    onSignal: (signal) => signal !== now.signal && show({ signal }),
  });
}

/** Whether all of it is here: every file of the shell, and a core that starts. */
export async function isWhole(): Promise<"whole" | "not_taken" | "incomplete"> {
  if (now.stage !== "ready") return wasTaken() ? "incomplete" : "not_taken";
  const build = await fetch("/files.json", { cache: "no-store" })
    .then((got) => got.json() as Promise<{ shell: string[] }>)
    .catch(() => null);
  // Without a network nobody tells which files there are; the page itself has to be among them.
  const files = ["/", ...(build?.shell ?? [])];
  const held = await Promise.all(files.map((file) => caches.match(file, { ignoreSearch: true })));
  return held.every((file) => file !== undefined) ? "whole" : "incomplete";
}

async function fetchEngine(): Promise<void> {
  const cache = await caches.open(CACHE);
  const build = await fetch("/files.json", { cache: "no-store" })
    .then((got) => got.json() as Promise<{ build: string; engine: number }>)
    .catch(() => null);
  // Without a network what is here has to do; with one, an engine of another build is fetched anew.
  if (build === null) return;
  const stamp = `${ENGINE_URL}build`;
  if ((await cache.match(stamp).then((held) => held?.text())) === build.build) return;
  show({ of: build.engine });
  const fetched: [string, Response][] = [];
  for (const name of ENGINE_FILES) {
    const url = ENGINE_URL + name;
    const got = await fetch(url, { cache: "reload" });
    if (!got.ok) throw new Error(`${name}: ${got.status}`);
    const headers = { "Content-Type": got.headers.get("Content-Type") ?? "" };
    fetched.push([url, new Response(await counted(got), { headers })]);
  }
  // All of one build or none of it: a half of each would not start on the rock.
  for (const [url, got] of fetched) await cache.put(url, got);
  await cache.put(stamp, new Response(build.build));
}

/** The whole of an answer, its bytes counted as they come. */
async function counted(got: Response): Promise<Blob> {
  const reader = got.body?.getReader();
  if (!reader) return got.blob();
  const parts: BlobPart[] = [];
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return new Blob(parts);
    parts.push(value);
    show({ got: now.got + value.byteLength });
  }
}

function hearOfNewer(registered: ServiceWorkerRegistration): void {
  const look = () => show({ newer: registered.waiting !== null && navigator.serviceWorker.controller !== null });
  look();
  registered.addEventListener("updatefound", () => registered.installing?.addEventListener("statechange", look));
}

let heardOfPassing = false;

/** Another page takes a newer build: every page is then served by it, those too that are made of the older one. */
function hearOfPassing(): void {
  if (heardOfPassing) return;
  heardOfPassing = true;
  let served = navigator.serviceWorker.controller !== null;
  navigator.serviceWorker.addEventListener("controllerchange", () => {
    // The first worker that serves this page is of the build it is made of.
    if (served) show({ passed: true, newer: false });
    served = true;
  });
}

/** Take the newer build now; whoever asks for it has made sure that no shutter is open. */
export async function takeNewer(): Promise<void> {
  const registered = await navigator.serviceWorker.getRegistration();
  navigator.serviceWorker.addEventListener("controllerchange", () => globalThis.location.reload(), { once: true });
  registered?.waiting?.postMessage("take over");
}
