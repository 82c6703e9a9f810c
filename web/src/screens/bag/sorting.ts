import type { DragEvent } from "react";

/** A thing goes before or after another one of its group. */
export interface Place {
  id: string;
  side: "before" | "after";
  other: string;
}

const KIND = "application/x-jackstaff-filter";

/** What makes a tile one that can be pulled to another place of its group; what comes from elsewhere is not taken. */
export function sortable(
  own: string,
  group: readonly string[],
  onOver: (over: boolean) => void,
  onMoved: (place: Place) => void,
) {
  return {
    handle: {
      draggable: true,
      onDragStart: (event: DragEvent) => {
        event.dataTransfer.setData(KIND, own);
        event.dataTransfer.effectAllowed = "move";
      },
    },
    target: {
      onDragOver: (event: DragEvent) => {
        if (!event.dataTransfer.types.includes(KIND)) return;
        event.preventDefault();
        onOver(true);
      },
      onDragLeave: () => onOver(false),
      onDrop: (event: DragEvent) => {
        onOver(false);
        const id = event.dataTransfer.getData(KIND);
        if (id === own || !group.includes(id)) return;
        event.preventDefault();
        // Pulled to the right it comes after, to the left before, as the eye expects.
        const side = group.indexOf(id) < group.indexOf(own) ? "after" : "before";
        onMoved({ id, side, other: own });
      },
    },
  };
}

/** One place up or down in its group; null at its end. */
export function stepped(id: string, group: readonly string[], by: -1 | 1): Place | null {
  const other = group[group.indexOf(id) + by];
  return other === undefined || !group.includes(id) ? null : { id, side: by < 0 ? "before" : "after", other };
}

/** All ids in their new order. */
export function placed(ids: readonly string[], { id, side, other }: Place): string[] {
  const rest = ids.filter((each) => each !== id);
  return rest.toSpliced(rest.indexOf(other) + (side === "after" ? 1 : 0), 0, id);
}
