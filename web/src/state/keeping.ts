import type { Copy } from "../questions/account";
import type { Doc } from "./shelf";
import { broken, drawer, kindOf, replicated, store } from "./store";
// Its screen comes later than the store reads what is kept.
import "./armed";
import "./dryRuns";
import "./practice";

/** What was displaced by another device's writing that did not know of it. */
export type Aside = NonNullable<Extract<Copy, { kind: "aside" }>["content"]>;

export const asides = drawer<Aside>({
  name: "aside",
  version: 1,
  check: (content) =>
    typeof content === "object" && content !== null && "kind" in content && "content" in content
      ? (content as Aside)
      : null,
  wire: (aside) => ({ ...aside }),
  sort: (aside) => aside.changed_at,
});

/** Put a displaced writing back in the place of the one that won, which is displaced in turn. */
export async function putBack(id: string, aside: Aside): Promise<void> {
  const kind = kindOf(aside.kind);
  const held = kind && store.held(aside.kind, aside.key)?.content;
  const content = aside.kind === "kit" ? placed(aside, held) : { ...(held as object | null), ...aside.content };
  const read = kind?.check(content) ?? null;
  if (kind && read !== null) await store.set(kind, aside.key, read);
  await asides.remove(id);
}

/** A thing of the kit is kept as the core read it: what was typed goes over what is held. */
function placed(aside: Aside, held: unknown) {
  const { place, ...typed } = aside.content;
  const item = (held as { item?: object } | null)?.item;
  return { place, item: { ...item, ...typed, id: aside.key } };
}

/** Take a refused writing back: what stood there before it stands there again. */
export async function dropRefused(doc: Doc): Promise<void> {
  const before = doc.waiting?.before ?? null;
  await store.settle(doc.owner, doc.kind, doc.id, (held) =>
    before === null
      ? null
      : { ...held, content: before, sort: kindOf(held.kind)?.sort?.(before) ?? held.sort, waiting: null },
  );
}

/** Send a refused writing once more. */
export async function sendAgain(doc: Doc): Promise<void> {
  await store.settle(doc.owner, doc.kind, doc.id, (held) =>
    held.waiting ? { ...held, waiting: { ...held.waiting, refused: null } } : held,
  );
  store.onWaiting();
}

/** Forget something that could not be read. */
export async function forgetBroken(id: string): Promise<void> {
  await broken.remove(id);
}

/** Everything that is kept here for whoever is here, as a file of plain JSON. */
export async function everythingKept(): Promise<Blob> {
  const names = [...replicated(), "bench", "armed", "habits", "practice", "broken"];
  let docs: Doc[] = [];
  try {
    docs = await store.shelf.whole(store.owner, names);
  } catch {
    // Then what the page has.
  }
  const inPage = names.flatMap((name) => store.view(name));
  const all = new Map([...docs, ...inPage].map((doc) => [`${doc.kind} ${doc.id}`, doc]));
  const documents = [...all.values()]
    .filter((doc) => doc.content !== null)
    .map(({ kind, id, content }) => ({ kind, id, content }));
  return fileOf({ format: "jackstaff-kept", version: 1, documents });
}

export function fileOf(content: unknown): Blob {
  return new Blob([JSON.stringify(content, null, 1)], { type: "application/json" });
}
