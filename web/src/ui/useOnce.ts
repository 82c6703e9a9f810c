import { useRef } from "react";

/** What a press sets going, one at a time: a second press while it is under way is the same press. */
export function useOnce<Given extends unknown[]>(act: (...given: Given) => Promise<unknown>) {
  const going = useRef(false);
  return async (...given: Given): Promise<void> => {
    if (going.current) return;
    going.current = true;
    try {
      await act(...given);
    } finally {
      going.current = false;
    }
  };
}
