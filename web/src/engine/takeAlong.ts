import { Engine } from "./engine";
import { Engines } from "./engines";
import { ENGINE_FILES, ENGINE_URL } from "./protocol";
import { answerBeside } from "./seam";
import { canTake, show, TAKEN, takenAlong, wasTaken } from "./taken";

/** What is taken along so that everything works without a signal: the shell, and the core with its Python. */

const CACHE = "jackstaff-engine";
/** When the hands rest after a start [ms]. */
const IDLE_MS = 2500;

let engine: Engines | null = null;

/** What was taken along before is there again: at once when somebody needs it, else when the hands rest. */
export function recall(): void {
  hearOfPassing();
  beside();
  window.setTimeout(() => void take(), IDLE_MS);
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
  if (takenAlong().stage === "ready") return;
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

/** Ask the core in this page, fetched first where it is not here yet. */
export async function askHere(name: string, body: string, signal: AbortSignal) {
  // Whoever needs the core sees how far it has come; where it cannot be kept it is started all the same.
  if (engine === null && canTake()) await take();
  return (await started()).ask(name, body, signal);
}

let seam: (() => void) | null = null;

function beside(): void {
  seam ??= answerBeside({
    there: () => engine,
    coming: started,
    onSignal: (signal) => signal !== takenAlong().signal && show({ signal }),
  });
}

/** Whether all of it is here: every file of the shell, and a core that starts. */
export async function isWhole(): Promise<"whole" | "not_taken" | "incomplete"> {
  if (takenAlong().stage !== "ready") return wasTaken() ? "incomplete" : "not_taken";
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
    show({ got: takenAlong().got + value.byteLength });
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
