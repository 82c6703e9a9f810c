import { useSyncExternalStore } from "react";

/** What can open over any screen. */
export type Dialog = "keys" | "signIn" | "account";

let shown: Dialog | null = null;
const listeners = new Set<() => void>();

/** Open one of them, or close whichever is open. */
export function openDialog(which: Dialog | null): void {
  shown = which;
  for (const heard of listeners) heard();
}

/** Close one; what was opened since stays. */
export function closeDialog(which: Dialog): void {
  if (shown === which) openDialog(null);
}

export function useDialog(): Dialog | null {
  return useSyncExternalStore(
    (heard) => {
      listeners.add(heard);
      return () => listeners.delete(heard);
    },
    () => shown,
  );
}
