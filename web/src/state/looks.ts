import * as v from "valibot";
import type { Schemas } from "../api/client";
import { drawer } from "./store";

export type OwnLook = Schemas["OwnLookInput"];

const SHAPE = v.object({
  kind: v.string(),
  look: v.string(),
  low: v.number(),
  high: v.nullish(v.number()),
});

/** Looks of one's own. */
export const looks = drawer<OwnLook>({
  name: "look",
  version: 1,
  check: (content) => {
    const read = v.safeParse(SHAPE, content);
    return read.success ? { ...read.output, high: read.output.high ?? null } : null;
  },
  wire: (look) => ({ ...look }),
  sort: (look) => `${look.kind} ${look.look}`,
});

/** One look of a name a kind: a new one takes the old one's place. */
export async function keepLook(look: OwnLook): Promise<void> {
  await looks.set(keyOf(look), look);
}

export async function forgetLook(look: OwnLook): Promise<void> {
  await looks.remove(keyOf(look));
}

/** The key of a look that may be there already under another. */
function keyOf(look: OwnLook): string {
  return looks.idOf((named) => named.kind === look.kind && named.look === look.look) ?? crypto.randomUUID();
}
