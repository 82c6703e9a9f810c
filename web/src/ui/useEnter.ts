import { type KeyboardEvent, useEffect, useState } from "react";

/**
 * Enter on a form that is not ready yet acts once it is, unless something else has been typed meanwhile. While a form's
 * button is disabled the browser sends nothing, so the field itself listens.
 */
export function useEnter(text: string, ready: boolean, act: () => void): (event: KeyboardEvent) => void {
  const [entered, setEntered] = useState<string | null>(null);
  const due = ready && entered === text && text.trim() !== "";
  useEffect(() => {
    if (due) act();
    // Once, when it has become ready.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [due]);
  return (event) => {
    if (event.key === "Enter" && !ready) setEntered(text);
  };
}
