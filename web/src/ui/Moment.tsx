import { type ReactNode, useEffect, useLayoutEffect, useState } from "react";

/** After a change of moment a finger or key that was on its way does nothing for so long [ms]. */
const REST_MS = 700;

/** What stands at one moment of the work. When `name` changes nothing in it acts for a while: a second tap meant the first. */
export function Moment({ name, children }: { name: string; children: ReactNode }) {
  const [settled, setSettled] = useState<string | null>(null);
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(name), REST_MS);
    return () => window.clearTimeout(timer);
  }, [name]);
  useLayoutEffect(() => {
    // Its main action stands where the last one stood, however far that was scrolled.
    const scroller = document.querySelector("main");
    if (scroller) scroller.scrollTop = 0;
  }, [name]);
  return (
    <div className="moment" data-resting={settled !== name || undefined}>
      {children}
    </div>
  );
}
