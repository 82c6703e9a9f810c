import { useSyncExternalStore } from "react";

const paper = window.matchMedia("print");
let printing = false;

/** Whether the page goes to paper just now: what only paper shows need not stand on screen meanwhile. */
export function usePrinting(): boolean {
  return useSyncExternalStore(subscribe, () => printing || paper.matches);
}

function subscribe(changed: () => void): () => void {
  const set = (event: Event) => {
    printing = event.type === "beforeprint";
    changed();
  };
  paper.addEventListener("change", changed);
  window.addEventListener("beforeprint", set);
  window.addEventListener("afterprint", set);
  return () => {
    paper.removeEventListener("change", changed);
    window.removeEventListener("beforeprint", set);
    window.removeEventListener("afterprint", set);
  };
}
