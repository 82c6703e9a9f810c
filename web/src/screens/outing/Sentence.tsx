import { type ReactNode, useId, useState } from "react";

/** A part of the plan in a sentence; touched, it opens in its place. */
export function Sentence({ text, children }: { text: string; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const id = useId();
  return (
    <div className="sentence" data-open={open || undefined}>
      <button
        type="button"
        className="sentence-button"
        aria-expanded={open}
        aria-controls={id}
        onClick={() => setOpen(!open)}
      >
        {text}
      </button>
      {open && (
        <div id={id} className="sentence-open">
          {children}
        </div>
      )}
    </div>
  );
}
