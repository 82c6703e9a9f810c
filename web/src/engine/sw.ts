/**
 * The shell without a network: what a build is made of lies in a cache of that build, the engine in one of its own.
 * Nothing under /api is touched but a few lists that are the same for everybody, kept for when nobody answers.
 *
 * A new build waits until no page of the old one is left, or until somebody takes it: a running exposure is never
 * reloaded.
 */

interface Lasting extends Event {
  waitUntil: (until: Promise<unknown>) => void;
}
interface Fetching extends Lasting {
  readonly request: Request;
  respondWith: (answer: Promise<Response>) => void;
}
interface Message extends Lasting {
  readonly data: unknown;
}
interface Scope {
  skipWaiting: () => Promise<void>;
  clients: { claim: () => Promise<void> };
  addEventListener: ((type: "install" | "activate", hear: (event: Lasting) => void) => void) &
    ((type: "fetch", hear: (event: Fetching) => void) => void) &
    ((type: "message", hear: (event: Message) => void) => void);
}
interface Files {
  build: string;
  shell: string[];
}

const scope = self as unknown as Scope;
const ENGINE = "jackstaff-engine";
const SHELL = "jackstaff-shell-";
const LISTS = "jackstaff-lists";
/** The same for everybody, and needed on the rock. */
const KEPT_LISTS = ["/api/log/defects", "/api/outing/hazards", "/api/starter", "/api/kit/facts"];
const NETWORK_MS = 3000;

async function files(): Promise<Files> {
  const got = await fetch("/files.json", { cache: "no-store" });
  return (await got.json()) as Files;
}

scope.addEventListener("install", (event) => {
  const fill = async () => {
    const { build, shell } = await files();
    const cache = await caches.open(SHELL + build);
    await cache.addAll(["/", ...shell]);
    await (await caches.open(LISTS)).addAll(KEPT_LISTS);
  };
  event.waitUntil(fill());
});

scope.addEventListener("activate", (event) => {
  const clear = async () => {
    const { build } = await files().catch(() => ({ build: null }));
    for (const name of await caches.keys())
      if (build !== null && name.startsWith(SHELL) && name !== SHELL + build) await caches.delete(name);
    await scope.clients.claim();
  };
  event.waitUntil(clear());
});

scope.addEventListener("message", (event) => {
  if (event.data === "take over") event.waitUntil(scope.skipWaiting());
});

scope.addEventListener("fetch", (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  // What is fetched anew is not answered from what it replaces.
  if (request.cache === "reload") return;
  if (request.method !== "GET" || origin !== self.location.origin) return;
  if (request.mode === "navigate") event.respondWith(page(request));
  else if (pathname.startsWith("/py/")) event.respondWith(cacheFirst(request, ENGINE));
  else if (KEPT_LISTS.includes(pathname)) event.respondWith(fresh(request, LISTS));
  else if (!pathname.startsWith("/api/")) event.respondWith(cacheFirst(request, null));
});

/** Every address of the application is the one page. */
async function page(request: Request): Promise<Response> {
  try {
    const got = await fetch(request, { signal: AbortSignal.timeout(NETWORK_MS) });
    if (got.ok) return got;
    throw new Error(String(got.status));
  } catch (error) {
    const held = await caches.match("/");
    if (held) return held;
    throw error;
  }
}

/** From a cache, else from the network; kept in the cache that is named. */
async function cacheFirst(request: Request, name: string | null): Promise<Response> {
  const held = await caches.match(request, { ignoreSearch: true });
  if (held) return held;
  const got = await fetch(request);
  if (got.ok && name !== null) await (await caches.open(name)).put(request, got.clone());
  return got;
}

/** From the network, else as it was last. */
async function fresh(request: Request, name: string): Promise<Response> {
  const cache = await caches.open(name);
  try {
    const got = await fetch(request);
    if (got.ok) await cache.put(request, got.clone());
    return got;
  } catch (error) {
    const held = await cache.match(request);
    if (held) return held;
    throw error;
  }
}
