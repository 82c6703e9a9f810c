import { useEffect, useRef, useState } from "react";

/**
 * What a press sets going, one at a time: a second press while it is under way is the same press. It is over when the
 * screen shows what came of it, so that none hits a form that has done its work and is about to go.
 */
export function useOnce<Given extends unknown[]>(act: (...given: Given) => Promise<unknown>) {
  const going = useRef(false);
  const [times, setTimes] = useState(0);
  useEffect(() => {
    going.current = false;
  }, [times]);
  return async (...given: Given): Promise<void> => {
    if (going.current) return;
    going.current = true;
    try {
      await act(...given);
    } finally {
      setTimes((before) => before + 1);
    }
  };
}
