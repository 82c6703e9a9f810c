import { useSyncExternalStore } from "react";

const wide = window.matchMedia("(min-width: 1200px)");

function subscribe(heard: () => void): () => void {
  wide.addEventListener("change", heard);
  return () => wide.removeEventListener("change", heard);
}

/** Whether a page has room for a list and what is opened of it beside one another. */
export function useWide(): boolean {
  return useSyncExternalStore(subscribe, () => wide.matches);
}
