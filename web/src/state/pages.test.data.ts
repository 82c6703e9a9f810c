import { vi } from "vitest";
import type { Store } from "./store";

/** A page of the browser in a test: modules of its own, the database and the channel of everybody. */
export async function page() {
  vi.resetModules();
  const store = await import("./store");
  const shelf = await import("./shelf");
  return { ...store, ...shelf };
}

type Heard = (event: { data: unknown }) => void;

/** What pages tell each other, delivered in turn. */
class Channel {
  static all: Channel[] = [];
  private heard: Heard[] = [];
  constructor(readonly name: string) {
    Channel.all.push(this);
  }
  addEventListener(_: string, heard: Heard): void {
    this.heard.push(heard);
  }
  removeEventListener(_: string, heard: Heard): void {
    this.heard = this.heard.filter((listener) => listener !== heard);
  }
  postMessage(data: unknown): void {
    const copy: unknown = structuredClone(data);
    for (const other of Channel.all)
      if (other !== this && other.name === this.name) for (const heard of other.heard) heard({ data: copy });
  }
}

/** A browser without anything in it. */
export async function emptyBrowser(): Promise<void> {
  Channel.all = [];
  globalThis.localStorage.clear();
  vi.stubGlobal("BroadcastChannel", Channel);
  const { IDBFactory } = await import("fake-indexeddb");
  vi.stubGlobal("indexedDB", new IDBFactory());
}

/** Make a shelf refuse to write, as a browser does whose storage is full; hands back how to make room. */
export function fill(store: Store): () => void {
  const full = vi
    .spyOn(store.shelf, "change")
    .mockImplementation(() => Promise.reject(new DOMException("no room", "QuotaExceededError")));
  return () => full.mockRestore();
}

/** Let everything that is under way come to rest: counted in turns, because a busy machine is slow, not wrong. */
export async function rest(turns = 60): Promise<void> {
  for (let turn = 0; turn < turns; turn++) await new Promise((resolve) => setTimeout(resolve, 5));
}
