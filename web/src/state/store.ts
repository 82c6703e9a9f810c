import { useSyncExternalStore } from "react";
import { noteWhenGoing, writeLeft } from "./leftBehind";
import { type Doc, memoryShelf, type Shelf, type Waiting } from "./shelf";

/**
 * The one memory below the screens. Every document has an owner, a kind and an id; what is shown is kept in this page,
 * what is written goes to this browser's database and to the other pages at once, and what belongs to an account then
 * goes to its server through the outbox.
 */
export interface Kind<Content> {
  name: string;
  version: number;
  /** The content where it can be read; null where it cannot, and then it is set aside. */
  check: (content: unknown) => Content | null;
  /** Goes to the account's server, in the form `wire` gives it. */
  wire?: (content: Content) => Record<string, unknown>;
  /** What lists are ordered by. */
  sort?: (content: Content) => string;
  /** Too many to be in the page all at once: only what is looked at is. */
  paged?: boolean;
  /** Whether it stays in the page, whoever is here: a shutter is open until somebody closes it. */
  stays?: (content: Content) => boolean;
  /** Whether the server forgets more with it than this browser could give back: then its removal rests before it is sent. */
  rests?: (content: Content) => boolean;
}

export const GUEST = "guest";

export type Trouble = "full" | "blocked" | null;

interface News {
  docs?: Doc[];
  gone?: { owner: string; kind: string; id: string }[];
  note?: { key: string; value: unknown };
  /** It goes out once more, on top of another number. */
  renumbered?: Doc;
}

/** What could not be read any more, in the words of whoever looks for it. */
export interface Broken {
  kind: string;
  id: string;
  content: unknown;
}

const BROKEN: Kind<Broken> = {
  name: "broken",
  version: 1,
  check: (content) =>
    typeof content === "object" && content !== null && "kind" in content ? (content as Broken) : null,
};

const kinds = new Map<string, Kind<unknown>>([[BROKEN.name, BROKEN as Kind<unknown>]]);

export function kindOf(name: string): Kind<unknown> | undefined {
  return kinds.get(name);
}

export function replicated(): string[] {
  return [...kinds.values()].filter((kind) => kind.wire).map((kind) => kind.name);
}

const NOTHING: never[] = [];

export class Store {
  owner = GUEST;
  /** Whether what is kept has been asked for. */
  opened = false;
  trouble: Trouble = null;
  shelf: Shelf = memoryShelf();
  /** Called when something waits to be sent. */
  onWaiting: () => void = () => undefined;
  /** Called when another page has left a note. */
  onNote: (key: string, value: unknown) => void = () => undefined;

  private docs = new Map<string, Doc>();
  private views = new Map<string, readonly Doc[]>();
  private unsaved = new Map<string, Doc>();
  /** Shown, and not yet confirmed by the browser's database. */
  private pending = new Set<Doc>();
  private listeners = new Set<() => void>();
  private channel = "BroadcastChannel" in globalThis ? new BroadcastChannel("jackstaff.store") : null;
  private latest = "";
  private writing: Promise<unknown> = Promise.resolve();
  /** How many of a paged kind are kept in the page. */
  private sizes = new Map<string, number>();

  constructor() {
    this.channel?.addEventListener("message", (event: MessageEvent<News>) => this.hear(event.data));
    noteWhenGoing(() => [...this.pending]);
  }

  /** Open for somebody: what they have is read, what cannot be read is set aside. */
  async open(shelf: Shelf, owner: string): Promise<void> {
    this.opened = true;
    this.shelf = shelf;
    this.trouble = shelf.lasting ? null : "blocked";
    // Where it cannot be written now it stays noted for the next time.
    await writeLeft(shelf).catch(() => undefined);
    await this.become(owner);
    await this.fetchStaying();
  }

  /**
   * Show what belongs to somebody else from now on, and nothing of whoever was here before, except for what stays where
   * `keeps` says so.
   */
  async become(owner: string, keeps = false): Promise<void> {
    const whole = [...kinds.values()].filter((kind) => !kind.paged).map((kind) => kind.name);
    const paged = [...kinds.values()].filter((kind) => kind.paged).map((kind) => kind.name);
    const read = await Promise.all([
      this.shelf.whole(owner, whole),
      this.shelf.waiting(owner),
      ...paged.map((kind) => this.shelf.newest(owner, kind, FIRST_PAGE)),
    ]);
    const staying = keeps ? [...this.docs.values()].filter((doc) => doc.owner !== owner && doesStay(doc)) : [];
    this.owner = owner;
    this.docs.clear();
    this.views.clear();
    for (const doc of read.flat()) this.admit(doc);
    for (const doc of this.unsaved.values()) if (doc.owner === owner) this.docs.set(keyOf(doc.kind, doc.id), doc);
    for (const doc of staying) {
      const own = this.docs.get(keyOf(doc.kind, doc.id));
      // A guest's that was handed over is there already.
      if (!own || !doesStay(own)) this.docs.set(keyOf(doc.kind, doc.id), doc);
    }
    this.changed();
    if (!keeps) return;
    const others = [...this.docs.values()].filter((doc) => doc.owner !== owner);
    await this.setNote(
      STAYING,
      others.map(({ owner, kind, id }) => [owner, kind, id]),
    );
  }

  /** What stays of somebody who has left, for a page that comes later. */
  private async fetchStaying(): Promise<void> {
    const noted = (await this.note(STAYING)) as [string, string, string][] | undefined;
    for (const [owner, kind, id] of noted ?? []) {
      const doc = await this.shelf.get(owner, kind, id).catch(() => undefined);
      if (doc && owner !== this.owner && doesStay(doc)) this.admit(doc);
    }
    if (noted?.length) this.changed();
  }

  /** Whether it is in the page and belongs to somebody who has left. */
  isAnothers(kind: string, id: string): boolean {
    const held = this.docs.get(keyOf(kind, id));
    return held !== undefined && held.owner !== this.owner;
  }

  /** What stayed of somebody who has left is over: it leaves the page, and what is one's own comes in its place. */
  letGo(kind: string, id: string): void {
    if (!this.isAnothers(kind, id)) return;
    this.docs.delete(keyOf(kind, id));
    this.changed(kind);
    void this.fetch(kind, id).catch(() => undefined);
  }

  redraw(kind: string): void {
    this.changed(kind);
  }

  /** Nothing of an owner who is no more stays. */
  letGoOf(owner: string): void {
    for (const doc of [...this.docs.values()]) if (doc.owner === owner) this.letGo(doc.kind, doc.id);
  }

  /** Whether news of it belongs into this page. */
  private belongs({ owner, kind, id }: Pick<Doc, "owner" | "kind" | "id">): boolean {
    return owner === (this.docs.get(keyOf(kind, id))?.owner ?? this.owner);
  }

  /** The documents of a kind that are in the page, in the order of the kind; without what is removed. */
  view(kind: string): readonly Doc[] {
    const held = this.views.get(kind);
    if (held) return held;
    const found = [...this.docs.values()].filter(
      (doc) => doc.kind === kind && doc.content !== null && (doc.owner === this.owner || doesStay(doc)),
    );
    const view = found.length === 0 ? NOTHING : found.toSorted((a, b) => (a.sort < b.sort ? 1 : -1));
    this.views.set(kind, view);
    return view;
  }

  /** Everything of a kind in the page, removals included. */
  held(kind: string, id: string): Doc | undefined {
    return this.docs.get(keyOf(kind, id));
  }

  /** What waits to be sent, in order. */
  waiting(): readonly Doc[] {
    const held = this.views.get("\u0000waiting");
    if (held) return held;
    const found = [...this.docs.values()].filter((doc) => doc.owner === this.owner && doc.waiting !== null);
    const view = found.toSorted((a, b) => (a.waiting?.order ?? 0) - (b.waiting?.order ?? 0));
    this.views.set("\u0000waiting", view);
    return view;
  }

  /** Bring the first `most` of a paged kind into the page. */
  async page(kind: string, most: number): Promise<void> {
    const { owner } = this;
    this.sizes.set(kind, Math.max(most, this.sizes.get(kind) ?? FIRST_PAGE));
    const found = await this.shelf.newest(owner, kind, most);
    if (owner !== this.owner) return;
    for (const doc of found) if (!this.docs.has(keyOf(kind, doc.id))) this.admit(doc);
    this.changed(kind);
  }

  /** Bring one document of a paged kind into the page. */
  async fetch(kind: string, id: string): Promise<void> {
    const { owner } = this;
    const found = await this.shelf.get(owner, kind, id);
    if (!found || owner !== this.owner || this.docs.has(keyOf(kind, id))) return;
    this.admit(found);
    this.changed(kind);
  }

  /**
   * Change one document: shown at once, and written right after. The promise is kept when it is in the browser, or when
   * it could not be and lives on in the page.
   */
  set(kind: Kind<unknown>, id: string, content: unknown): Promise<void> {
    const held = this.docs.get(keyOf(kind.name, id));
    const next = this.written(kind, id, held, content, held?.owner);
    this.docs.set(keyOf(kind.name, id), next);
    this.changed(kind.name);
    return this.keep(next);
  }

  /**
   * Change one document as it stands in the browser now, whichever page wrote it last: written first, then shown.
   * `how` gets null where there is nothing; undefined from it leaves everything as it is.
   */
  async change(kind: Kind<unknown>, id: string, how: (content: unknown) => unknown): Promise<void> {
    const owner = this.docs.get(keyOf(kind.name, id))?.owner ?? this.owner;
    const here = { owner, kind: kind.name, id };
    if (this.unsaved.size > 0) await this.saveUnsaved().catch(() => undefined);
    const ours = this.unsaved.get(JSON.stringify([owner, kind.name, id]));
    const work = (stored: Doc | undefined) => {
      // What was written since is on its way to the browser's database, and would be lost under this.
      const shown = this.belongs(here) ? this.docs.get(keyOf(kind.name, id)) : undefined;
      const held = shown && this.pending.has(shown) && !(stored && stored.stamp > shown.stamp) ? shown : stored;
      // As it is shown: what an earlier day's program kept is not handed on as it stood then.
      const content = how(held?.content == null ? null : (kind.check(held.content) ?? held.content));
      return content === undefined ? undefined : this.written(kind, id, held, content, owner);
    };
    let next: Doc | undefined;
    try {
      await this.writing;
      // What could not be saved is the truth as long as it lives here.
      next = ours ? work(ours) : await this.shelf.change(owner, kind.name, id, work);
      if (ours && next) this.notSaved(next, null);
      else this.tell({ docs: next ? [next] : [] });
    } catch (error) {
      next = work(this.belongs(here) ? this.docs.get(keyOf(kind.name, id)) : undefined);
      if (!next) return;
      this.notSaved(next, error);
    }
    if (next && this.belongs(here) && !this.isOlder(next)) this.docs.set(keyOf(kind.name, id), next);
    this.changed(kind.name);
    if (next?.waiting) this.onWaiting();
  }

  /** Take documents as the server holds them; what was written here meanwhile stays, kept already or not. */
  async take(owner: string, coming: Copied[]): Promise<void> {
    const documents: Doc[] = [];
    const gone: NonNullable<News["gone"]> = [];
    for (const copy of coming) {
      const merge = (held: Doc | undefined) => {
        if (held?.waiting) return undefined;
        if (held && held.number > copy.number) return undefined;
        return copy.content === null ? null : copiedOver(held, copy);
      };
      let taken: Doc | null | undefined;
      try {
        const now = await this.shelf.change(owner, copy.kind, copy.id, (held) => (taken = merge(held)));
        if (now && now === taken) documents.push(now);
        else if (!now) gone.push({ owner, kind: copy.kind, id: copy.id });
      } catch (error) {
        const now = merge(owner === this.owner ? this.docs.get(keyOf(copy.kind, copy.id)) : undefined);
        if (now === null) gone.push({ owner, kind: copy.kind, id: copy.id });
        if (!now) continue;
        this.notSaved(now, error);
        documents.push(now);
      }
    }
    this.apply({ docs: documents, gone });
    this.tell({ docs: documents, gone });
  }

  /** Settle what was sent: `how` decides on the document as it stands by then. */
  async settle(owner: string, kind: string, id: string, how: (held: Doc) => Copied | null): Promise<void> {
    const settled = (held: Doc) => {
      const copy = how(held);
      return copy && copiedOver(held, copy);
    };
    const settle = (held: Doc | undefined) => (held ? settled(held) : undefined);
    try {
      const now = await this.shelf.change(owner, kind, id, settle);
      const news: News = now ? { docs: [now] } : { gone: [{ owner, kind, id }] };
      this.apply(news);
      this.tell(news);
    } catch (error) {
      const held = this.belongs({ owner, kind, id }) ? this.docs.get(keyOf(kind, id)) : undefined;
      const now = held && settled(held);
      if (now) this.notSaved(now, error);
      this.apply(now ? { docs: [now] } : { gone: [{ owner, kind, id }] });
    }
  }

  /** Send it once more as it stands, on top of what the server had at `number`. */
  async sendAnew(owner: string, kind: string, id: string, number: number): Promise<void> {
    // What was written here and is on its way would bring the old number back.
    await this.writing;
    const anew = (held: Doc): Doc => ({ ...held, number, waiting: held.waiting ?? waitingOf(held) });
    const now = await this.shelf.change(owner, kind, id, (held) => held && anew(held));
    if (!now) return;
    this.renumber(now);
    this.tell({ renumbered: now });
  }

  /** What is shown goes out on top of another number than before; it may have been written again meanwhile. */
  private renumber({ owner, kind, id, number, waiting }: Doc): void {
    const held = this.docs.get(keyOf(kind, id));
    if (held?.owner !== owner) return;
    this.docs.set(keyOf(kind, id), { ...held, number, waiting: held.waiting ?? waiting });
    this.changed(kind);
  }

  /** Hand what a guest made here to the account that has signed in. Hands back what was handed over. */
  async adopt(from: string, to: string): Promise<Doc[]> {
    const how = (doc: Doc, held: Doc | undefined): Doc | null => {
      const kind = kinds.get(doc.kind);
      // What is kept by the browser alone goes along; a habit that is there already stays.
      if (!kind?.wire && held && doc.stamp < held.stamp) return null;
      return { ...doc, owner: to };
    };
    await this.writing;
    const moved = await this.shelf.move(from, to, how);
    this.tell({ docs: moved, gone: moved.map(({ kind, id }) => ({ owner: from, kind, id })) });
    return moved;
  }

  async note(key: string): Promise<unknown> {
    try {
      return await this.shelf.note(key);
    } catch {
      return undefined;
    }
  }

  /** Leave a note for later visits, and for the other pages where they must hear of it. */
  async setNote(key: string, value: unknown, tell = false): Promise<void> {
    if (tell) this.tell({ note: { key, value } });
    try {
      await this.shelf.setNote(key, value);
    } catch (error) {
      this.inTrouble(error);
    }
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** What is written a moment later than whatever was written before, whatever the clock says. */
  stamp(): string {
    const now = new Date().toISOString();
    const [instant = "", place = "0"] = this.latest.split("#");
    this.latest = now > instant ? `${now}#0000` : `${instant}#${String(Number(place) + 1).padStart(4, "0")}`;
    return this.latest;
  }

  private written(kind: Kind<unknown>, id: string, held: Doc | undefined, content: unknown, owner = this.owner): Doc {
    if (held && held.stamp > this.latest) this.latest = held.stamp;
    const stamp = this.stamp();
    return {
      owner,
      kind: kind.name,
      id,
      version: kind.version,
      content,
      stamp,
      sort: content === null ? "" : (kind.sort?.(content) ?? stamp),
      number: held?.number ?? 0,
      waiting: kind.wire ? waitingOf(held) : null,
    };
  }

  private async keep(doc: Doc): Promise<void> {
    const put = () =>
      this.shelf.change(doc.owner, doc.kind, doc.id, (held) => {
        return held && held.stamp > doc.stamp ? undefined : doc;
      });
    const work = this.writing.then(put, put);
    this.writing = work.catch(() => undefined);
    this.pending.add(doc);
    try {
      const now = await work.finally(() => this.pending.delete(doc));
      if (this.unsaved.size > 0) await this.saveUnsaved();
      if (now?.stamp === doc.stamp) this.tell({ docs: [now] });
    } catch (error) {
      this.notSaved(doc, error);
    }
    if (doc.waiting) this.onWaiting();
  }

  private notSaved(doc: Doc, error: unknown): void {
    this.unsaved.set(JSON.stringify([doc.owner, doc.kind, doc.id]), doc);
    this.tell({ docs: [doc] });
    if (error !== null) this.inTrouble(error);
  }

  private inTrouble(error: unknown): void {
    const full = error instanceof DOMException && error.name === "QuotaExceededError";
    const trouble = full ? "full" : (this.trouble ?? "blocked");
    if (trouble === this.trouble) return;
    this.trouble = trouble;
    this.changed();
  }

  /** Somebody has emptied the browser's database: what the page has goes into it again. */
  keepAgain(): void {
    for (const doc of this.docs.values()) this.unsaved.set(JSON.stringify([doc.owner, doc.kind, doc.id]), doc);
    void this.saveUnsaved().catch((error: unknown) => this.inTrouble(error));
  }

  /** There is room again: what lived in the page alone goes to the browser. */
  private async saveUnsaved(): Promise<void> {
    for (const [key, doc] of this.unsaved) {
      await this.shelf.change(doc.owner, doc.kind, doc.id, (held) =>
        held && held.stamp > doc.stamp ? undefined : doc,
      );
      this.unsaved.delete(key);
    }
    if (this.shelf.lasting && this.trouble !== null) {
      this.trouble = null;
      this.changed();
    }
  }

  /** Into the page, if it can be read; else aside, under its own name, so that nothing is thrown away. */
  private admit(doc: Doc): void {
    const kind = kinds.get(doc.kind);
    if (!kind) return;
    if (doc.stamp > this.latest) this.latest = doc.stamp;
    const content = doc.content === null || doc.version > kind.version ? null : kind.check(doc.content);
    if (doc.content === null || content !== null) {
      this.docs.set(keyOf(doc.kind, doc.id), { ...doc, content });
      return;
    }
    const broken: Doc = {
      ...doc,
      kind: BROKEN.name,
      id: `${doc.kind} ${doc.id}`,
      version: BROKEN.version,
      content: { kind: doc.kind, id: doc.id, content: doc.content } satisfies Broken,
      sort: doc.stamp,
      waiting: null,
    };
    this.docs.set(keyOf(broken.kind, broken.id), broken);
    const away = this.shelf
      .change(broken.owner, broken.kind, broken.id, () => broken)
      .then(() => this.shelf.change(doc.owner, doc.kind, doc.id, () => null));
    void away.catch(() => undefined);
  }

  private hear(news: News): void {
    if (news.renumbered) this.renumber(news.renumbered);
    if (news.note) this.onNote(news.note.key, news.note.value);
    this.apply(news);
  }

  private apply({ docs = [], gone = [] }: News): void {
    const touched = new Set<string>();
    for (const { owner, kind, id } of gone) {
      const held = this.belongs({ owner, kind, id }) ? this.docs.get(keyOf(kind, id)) : undefined;
      // Written again meanwhile: that is on its way to the browser's database.
      if (!held || this.pending.has(held)) continue;
      this.docs.delete(keyOf(kind, id));
      touched.add(kind);
    }
    for (const doc of docs) {
      if (!this.belongs(doc)) continue;
      if (this.isOlder(doc)) continue;
      this.admit(doc);
      touched.add(doc.kind);
    }
    if (touched.size === 0) return;
    for (const name of touched) if (kinds.get(name)?.paged) this.trim(name);
    this.changed(...touched);
  }

  /** Whether what is shown was written after this, or is a later copy of the server's. */
  private isOlder({ kind, id, stamp, number }: Doc): boolean {
    const held = this.docs.get(keyOf(kind, id));
    return held !== undefined && (held.stamp > stamp || (held.stamp === stamp && held.number > number));
  }

  /** A long log stays in the browser; in the page are the newest, and what waits. */
  private trim(kind: string): void {
    const most = this.sizes.get(kind) ?? FIRST_PAGE;
    const all = [...this.docs.values()].filter((doc) => doc.kind === kind && doc.waiting === null);
    if (all.length <= most) return;
    for (const doc of all.toSorted((a, b) => (a.sort < b.sort ? 1 : -1)).slice(most))
      this.docs.delete(keyOf(kind, doc.id));
  }

  private tell(news: News): void {
    if (news.docs?.length || news.gone?.length || news.note || news.renumbered) this.channel?.postMessage(news);
  }

  private changed(...names: string[]): void {
    if (names.length === 0) this.views.clear();
    for (const name of names) this.views.delete(name);
    this.views.delete("\u0000waiting");
    for (const listener of this.listeners) listener();
  }
}

const FIRST_PAGE = 50;
/** What stays in this browser of those who have left: owner, kind and id of each. */
const STAYING = "staying";

/** Whether it stays in the page, whoever is here. */
export function doesStay({ kind, content }: Doc): boolean {
  return content !== null && kinds.get(kind)?.stays?.(content) === true;
}

/** A document as the server holds it. It is no writing of its own, so nothing that was written here is older. */
export type Copied = Omit<Doc, "stamp">;

function copiedOver(held: Doc | undefined, copy: Copied): Doc {
  return { ...copy, stamp: held?.stamp ?? "" };
}

function keyOf(kind: string, id: string): string {
  return `${kind}\u0000${id}`;
}

let places = 0;

function waitingOf(held: Doc | undefined): Waiting {
  places = (places + 1) % 1000;
  const before = held?.waiting;
  return {
    order: before?.order ?? Date.now() * 1000 + places,
    write: crypto.randomUUID(),
    follows: before ? [...before.follows, before.write].slice(-16) : [],
    before: before ? before.before : (held?.content ?? null),
    refused: null,
  };
}

export const store = new Store();

/** The documents of one kind, as the screens use them. */
export interface Drawer<Content> {
  kind: Kind<Content>;
  all: () => readonly Content[];
  get: (id: string) => Content | null;
  use: () => readonly Content[];
  useOne: (id: string | null) => Content | null;
  /** The same with their ids. */
  useDocs: () => readonly { id: string; content: Content }[];
  /** Whether it is of somebody who has left, and stays until it is over. */
  isAnothers: (id: string) => boolean;
  /** What is shown of them has changed, though none of them has. */
  redraw: () => void;
  /** Such a one is over. */
  letGo: (id: string) => void;
  /** Whether it was removed here, and that is not forgotten yet. */
  removed: (id: string) => boolean;
  /** The id of the first that fits. */
  idOf: (fits: (content: Content) => boolean) => string | undefined;
  set: (id: string, content: Content) => Promise<void>;
  change: (id: string, how: (content: Content | null) => Content | null | undefined) => Promise<void>;
  remove: (id: string) => Promise<void>;
}

const views = new WeakMap<readonly Doc[], readonly unknown[]>();

export function drawer<Content>(kind: Kind<Content>): Drawer<Content> {
  const plain = kind as Kind<unknown>;
  // What is kept is read when the store opens: a kind of a screen that comes later would seem to be empty.
  if (store.opened && !kinds.has(kind.name)) throw new Error(`${kind.name} has to be known before the store opens`);
  kinds.set(kind.name, plain);
  const contents = (docs: readonly Doc[]) => {
    const held = views.get(docs);
    if (held) return held as readonly Content[];
    const view = docs.map((doc) => doc.content as Content);
    views.set(docs, view);
    return view;
  };
  const all = () => contents(store.view(kind.name));
  const get = (id: string) => (store.held(kind.name, id)?.content ?? null) as Content | null;
  return {
    kind,
    all,
    get,
    use: () => useSyncExternalStore(store.subscribe, all),
    useDocs: () =>
      useSyncExternalStore(store.subscribe, () => store.view(kind.name)) as readonly { id: string; content: Content }[],
    useOne: (id) => useSyncExternalStore(store.subscribe, () => (id === null ? null : get(id))),
    isAnothers: (id) => store.isAnothers(kind.name, id),
    redraw: () => store.redraw(kind.name),
    letGo: (id) => store.letGo(kind.name, id),
    removed: (id) => {
      const doc = store.held(kind.name, id);
      return doc !== undefined && doc.content === null;
    },
    idOf: (fits) => store.view(kind.name).find((doc) => fits(doc.content as Content))?.id,
    set: (id, content) => store.set(plain, id, content),
    change: (id, how) => store.change(plain, id, how as (content: unknown) => unknown),
    remove: (id) => store.set(plain, id, null),
  };
}

export const broken = drawer(BROKEN);

export function useTrouble(): Trouble {
  return useSyncExternalStore(store.subscribe, () => store.trouble);
}

export function useWaiting(): readonly Doc[] {
  return useSyncExternalStore(store.subscribe, () => store.waiting());
}
