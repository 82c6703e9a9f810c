import { type ComponentType, createElement, useEffect, useState } from "react";
import { words } from "../words";
import { Missing } from "./Missing";

/** How long is waited before a piece that did not come is asked for once more [ms]. */
const PAUSES = [300, 1000, 2500];

/** Fetch a piece of the program: asked for again a few times by itself, for a weak signal is often only a moment. */
export async function patiently<Piece>(fetchPiece: () => Promise<Piece>): Promise<Piece> {
  for (const pause of PAUSES) {
    try {
      return await fetchPiece();
    } catch {
      await new Promise((resolve) => setTimeout(resolve, pause));
    }
  }
  return fetchPiece();
}

/**
 * A component that is fetched when it is first shown. Where it cannot be had that is said in its place, with a way to try
 * again; nothing else on the screen breaks, and the next time it is wanted it is asked for anew.
 */
export function lazily<Props extends object>(fetchPiece: () => Promise<ComponentType<Props>>, quietly = false) {
  let found: ComponentType<Props> | null = null;
  return function Piece(props: Props) {
    const [state, setState] = useState<"waiting" | "missing" | "here">(found ? "here" : "waiting");
    useEffect(() => {
      if (state !== "waiting") return;
      let there = true;
      void patiently(fetchPiece).then(
        (piece) => {
          found = piece;
          if (there) setState("here");
        },
        () => there && setState("missing"),
      );
      return () => {
        there = false;
      };
    }, [state]);
    if (found) return createElement(found, props);
    if (state === "missing") return createElement(Missing, { onAgain: () => setState("waiting") });
    return quietly ? null : createElement("p", { className: "waiting" }, words.bench.waiting);
  };
}
