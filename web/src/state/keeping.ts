import { type Aside, asides } from "./kept";
import type { Doc } from "./shelf";
import { broken, kindOf, store } from "./store";

/** The ways out of what could not be kept as it was written. */

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
