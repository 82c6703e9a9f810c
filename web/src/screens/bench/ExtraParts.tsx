import type { ReactNode } from "react";
import type { Reply } from "../../questions/ask";
import { Fault } from "../../ui/Fault";

/** What an extra says: greyed while it answers what was asked before, or why it says nothing. */
export function Answered({ reply, children }: { reply: Reply<unknown>; children: ReactNode }) {
  if (reply.error) return <Fault error={reply.error} again={reply.again} />;
  return (
    <div className="extra-said" aria-live="polite" data-stale={reply.stale || undefined}>
      {children}
    </div>
  );
}
