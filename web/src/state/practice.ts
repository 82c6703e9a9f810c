import * as v from "valibot";
import type { DrillKind, Graded } from "../questions/practice";
import { drawer } from "./store";

/** How each kind of drill sits: its box, when it is due again, and the latest answers; kept in this browser. */
const KINDS = ["dial", "notation", "stack", "trade", "one_reading", "light", "plausible", "defect"] as const;
const SHAPE = v.object({
  remembered: v.fallback(
    v.array(v.object({ kind: v.picklist(KINDS), box: v.number(), due: v.string(), lately: v.array(v.boolean()) })),
    [],
  ),
});

export type Practised = v.InferOutput<typeof SHAPE>["remembered"][number];

const LATELY = 10;
const HOUR_MS = 3_600_000;
const ONE = "practice";

const drawn = drawer<v.InferOutput<typeof SHAPE>>({
  name: "practice",
  version: 1,
  check: (content) => {
    const read = v.safeParse(SHAPE, content);
    return read.success ? read.output : null;
  },
});

const NOTHING: Practised[] = [];

export function usePractised(): readonly Practised[] {
  return drawn.useOne(ONE)?.remembered ?? NOTHING;
}

export function kinds(): readonly DrillKind[] {
  return KINDS;
}

export function boxOf(kind: DrillKind): number {
  return drawn.get(ONE)?.remembered.find((each) => each.kind === kind)?.box ?? 1;
}

/** Keep what an answer did. */
export function practised(kind: DrillKind, graded: Pick<Graded, "right" | "box" | "again_hours">, now: Date): void {
  if (graded.right === null) return;
  const held = drawn.get(ONE)?.remembered ?? [];
  const before = held.find((each) => each.kind === kind);
  const due = new Date(now.getTime() + graded.again_hours * HOUR_MS).toISOString();
  const lately = [...(before?.lately ?? []), graded.right].slice(-LATELY);
  const rest = held.filter((each) => each.kind !== kind);
  void drawn.set(ONE, { remembered: [...rest, { kind, box: graded.box, due, lately }] });
}
