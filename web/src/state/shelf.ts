import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Fault } from "../api/client";

/** What has been written here and not yet heard by the account's server, or waits for somebody to sign in. */
export interface Waiting {
  /** In this order it is sent. */
  order: number;
  /** The name of this writing: sent twice, it counts once. */
  write: string;
  /** Writings of the same document before it whose answers were never heard. */
  follows: string[];
  /** What stood there before, to go back to. */
  before: unknown;
  /** Why the server would not take it. */
  refused: Fault[] | null;
}

/** A document in this browser, parted by whose it is. Without content it was removed. */
export interface Doc {
  owner: string;
  kind: string;
  id: string;
  /** Of the content's shape. */
  version: number;
  content: unknown;
  /** When it was written, and which of two writings is the later. */
  stamp: string;
  /** What lists are ordered by; empty for what is removed. */
  sort: string;
  /** The account's count at which the server's copy was seen; 0 for none. */
  number: number;
  waiting: Waiting | null;
  /** When it was written, for a copy of the server's that nobody wrote here. */
  changedAt?: string;
}

type Change = (held: Doc | undefined) => Doc | null | undefined;

/** Where documents are kept between visits: this browser's database, or memory where there is none. */
export interface Shelf {
  readonly lasting: boolean;
  /** The documents of these kinds, all of them. */
  whole: (owner: string, kinds: string[]) => Promise<Doc[]>;
  /** The first `most` of a kind, the last in order first; what is removed is left out. */
  newest: (owner: string, kind: string, most: number) => Promise<Doc[]>;
  count: (owner: string, kind: string) => Promise<number>;
  get: (owner: string, kind: string, id: string) => Promise<Doc | undefined>;
  /** What waits to be sent, in order. */
  waiting: (owner: string) => Promise<Doc[]>;
  /** Change one document as it stands now, whichever page wrote it last; null forgets it, undefined leaves it. */
  change: (owner: string, kind: string, id: string, how: Change) => Promise<Doc | undefined>;
  /** Hand everything over to another owner, all or nothing. */
  move: (from: string, to: string, how: (doc: Doc, held: Doc | undefined) => Doc | null) => Promise<Doc[]>;
  /** Forget what the server has as well, but for what `keeps` says. */
  forgetSent: (owner: string, kinds: string[], keeps: (doc: Doc) => boolean) => Promise<void>;
  /** Everything of an owner who is no more, sent or not. */
  forgetOwner: (owner: string) => Promise<void>;
  note: (key: string) => Promise<unknown>;
  setNote: (key: string, value: unknown) => Promise<void>;
}

interface Schema extends DBSchema {
  documents: {
    key: [string, string, string];
    value: Doc;
    indexes: { sort: [string, string, string]; waiting: [string, number] };
  };
  notes: { key: string; value: unknown };
}

const NAME = "jackstaff";
const PATIENCE_MS = 4000;
/** Sorts after every text that a sort key may have. */
const LAST = "\uffff";

/**
 * The browser's own database, or memory where it is blocked or does not answer. Where the browser closes it (a page in
 * the background) it is opened again; where somebody deleted it, `onEmptied` writes what the page still has.
 */
export async function openShelf(onEmptied: () => void = () => undefined): Promise<Shelf> {
  try {
    const connection = new Connection(onEmptied);
    const here = connection.here();
    const late = new Promise<never>((_, reject) => {
      window.setTimeout(() => reject(new Error("the database does not answer")), PATIENCE_MS);
    });
    await Promise.race([here, late]);
    return lasting(connection);
  } catch {
    return memoryShelf();
  }
}

/** The way to the database, which may be cut at any time. */
class Connection {
  private opened: Promise<IDBPDatabase<Schema>> | null = null;
  private times = 0;
  private readonly onEmptied: () => void;

  constructor(onEmptied: () => void) {
    this.onEmptied = onEmptied;
  }

  here(): Promise<IDBPDatabase<Schema>> {
    if (this.opened) return this.opened;
    const isFirst = this.times === 0;
    let isEmpty = false;
    const opening = openDB<Schema>(NAME, 1, {
      upgrade(database) {
        const documents = database.createObjectStore("documents", { keyPath: ["owner", "kind", "id"] });
        documents.createIndex("sort", ["owner", "kind", "sort"]);
        documents.createIndex("waiting", ["owner", "waiting.order"]);
        database.createObjectStore("notes");
        isEmpty = true;
      },
      // A later version of the program wants to move walls, or somebody clears everything: let them.
      blocking: (_current, _blocked, event) => {
        (event.target as IDBDatabase).close();
        this.cut(opening);
      },
      terminated: () => this.cut(opening),
    });
    this.opened = opening;
    this.times += 1;
    opening.then(
      () => isEmpty && !isFirst && this.onEmptied(),
      () => this.cut(opening),
    );
    return opening;
  }

  /** Do something with it; where it turns out to be closed it is opened once more. */
  async ask<Found>(work: (database: IDBPDatabase<Schema>) => Promise<Found>): Promise<Found> {
    const opened = this.here();
    try {
      return await work(await opened);
    } catch (error) {
      if (!(error instanceof DOMException) || error.name !== "InvalidStateError") throw error;
      this.cut(opened);
      return work(await this.here());
    }
  }

  private cut(which: Promise<IDBPDatabase<Schema>>): void {
    if (this.opened === which) this.opened = null;
  }
}

function lasting(connection: Connection): Shelf {
  const ofKind = (owner: string, kind: string) => IDBKeyRange.bound([owner, kind], [owner, kind, LAST]);
  const shown = (owner: string, kind: string) => IDBKeyRange.bound([owner, kind, ""], [owner, kind, LAST], true);
  const ofOwner = (owner: string) => IDBKeyRange.bound([owner], [owner, LAST, LAST]);
  const ask: Connection["ask"] = (work) => connection.ask(work);
  return {
    lasting: true,
    whole: (owner, kinds) =>
      ask(async (database) => {
        const reading = database.transaction("documents").store;
        return (await Promise.all(kinds.map((kind) => reading.getAll(ofKind(owner, kind))))).flat();
      }),
    newest: (owner, kind, most) =>
      ask(async (database) => {
        const found: Doc[] = [];
        const index = database.transaction("documents").store.index("sort");
        for await (const cursor of index.iterate(shown(owner, kind), "prev")) {
          if (found.push(cursor.value) >= most) break;
        }
        return found;
      }),
    count: (owner, kind) => ask((database) => database.countFromIndex("documents", "sort", shown(owner, kind))),
    get: (owner, kind, id) => ask((database) => database.get("documents", [owner, kind, id])),
    waiting: (owner) =>
      ask((database) =>
        database.getAllFromIndex("documents", "waiting", IDBKeyRange.bound([owner, 0], [owner, Infinity])),
      ),
    change: (owner, kind, id, how) =>
      ask(async (database) => {
        const writing = database.transaction("documents", "readwrite");
        const held = await writing.store.get([owner, kind, id]);
        const next = how(held);
        if (next) await writing.store.put(next);
        else if (next === null) await writing.store.delete([owner, kind, id]);
        await writing.done;
        return next === undefined ? held : (next ?? undefined);
      }),
    move: (from, to, how) =>
      ask(async (database) => {
        const writing = database.transaction("documents", "readwrite");
        const moved: Doc[] = [];
        for (const doc of await writing.store.getAll(ofOwner(from))) {
          const next = how(doc, await writing.store.get([to, doc.kind, doc.id]));
          await writing.store.delete([from, doc.kind, doc.id]);
          if (!next) continue;
          await writing.store.put(next);
          moved.push(next);
        }
        await writing.done;
        return moved;
      }),
    forgetSent: (owner, kinds, keeps) =>
      ask(async (database) => {
        const writing = database.transaction("documents", "readwrite");
        for await (const cursor of writing.store.iterate(ofOwner(owner))) {
          const { kind, waiting } = cursor.value;
          if (kinds.includes(kind) && waiting === null && !keeps(cursor.value)) await cursor.delete();
        }
        await writing.done;
      }),
    forgetOwner: (owner) => ask((database) => database.delete("documents", ofOwner(owner))),
    note: (key) => ask((database) => database.get("notes", key)),
    setNote: (key, value) =>
      ask(async (database) => {
        await database.put("notes", value, key);
      }),
  };
}

/** For as long as the page lives. */
export function memoryShelf(): Shelf {
  const documents = new Map<string, Doc>();
  const notes = new Map<string, unknown>();
  const keyOf = (owner: string, kind: string, id: string) => JSON.stringify([owner, kind, id]);
  const all = (test: (doc: Doc) => boolean) => [...documents.values()].filter(test);
  const listed = (owner: string, kind: string) =>
    all((doc) => doc.owner === owner && doc.kind === kind && doc.sort !== "");
  return {
    lasting: false,
    whole: (owner, kinds) => Promise.resolve(all((doc) => doc.owner === owner && kinds.includes(doc.kind))),
    newest: (owner, kind, most) =>
      Promise.resolve(
        listed(owner, kind)
          .toSorted((a, b) => (a.sort < b.sort ? 1 : -1))
          .slice(0, most),
      ),
    count: (owner, kind) => Promise.resolve(listed(owner, kind).length),
    get: (owner, kind, id) => Promise.resolve(documents.get(keyOf(owner, kind, id))),
    waiting: (owner) =>
      Promise.resolve(
        all((doc) => doc.owner === owner && doc.waiting !== null).toSorted(
          (a, b) => (a.waiting?.order ?? 0) - (b.waiting?.order ?? 0),
        ),
      ),
    change: (owner, kind, id, how) => {
      const key = keyOf(owner, kind, id);
      const held = documents.get(key);
      const next = how(held);
      if (next) documents.set(key, next);
      else if (next === null) documents.delete(key);
      return Promise.resolve(next === undefined ? held : (next ?? undefined));
    },
    move: (from, to, how) => {
      const moved: Doc[] = [];
      for (const doc of all((held) => held.owner === from)) {
        const next = how(doc, documents.get(keyOf(to, doc.kind, doc.id)));
        documents.delete(keyOf(from, doc.kind, doc.id));
        if (!next) continue;
        documents.set(keyOf(to, next.kind, next.id), next);
        moved.push(next);
      }
      return Promise.resolve(moved);
    },
    forgetSent: (owner, kinds, keeps) => {
      const isSent = ({ kind, waiting }: Doc) => kinds.includes(kind) && waiting === null;
      for (const doc of all((held) => held.owner === owner && isSent(held) && !keeps(held)))
        documents.delete(keyOf(doc.owner, doc.kind, doc.id));
      return Promise.resolve();
    },
    forgetOwner: (owner) => {
      for (const doc of all((held) => held.owner === owner)) documents.delete(keyOf(doc.owner, doc.kind, doc.id));
      return Promise.resolve();
    },
    note: (key) => Promise.resolve(notes.get(key)),
    setNote: (key, value) => {
      notes.set(key, value);
      return Promise.resolve();
    },
  };
}
