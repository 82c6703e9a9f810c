import { useSyncExternalStore } from "react";

/** Whether the device has a network at all: what it has not is not asked for. */
export function useOnline(): boolean {
  return useSyncExternalStore(
    (heard) => {
      window.addEventListener("online", heard);
      window.addEventListener("offline", heard);
      return () => {
        window.removeEventListener("online", heard);
        window.removeEventListener("offline", heard);
      };
    },
    () => navigator.onLine,
  );
}
