import type { Copy } from "../questions/account";
import type { Doc } from "./shelf";
import { drawer, replicated, store } from "./store";
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
