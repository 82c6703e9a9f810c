import type { ReactNode } from "react";
import type { Reply } from "../../questions/ask";
import { Fault } from "../../ui/Fault";

/** What an extra says: greyed while it answers what was asked before, or why it says nothing. */
export function Reply({ asked, children }: { asked: Reply<unknown>; children: ReactNode }) {
  if (asked.error) return <Fault error={asked.error} again={asked.again} />;
  return (
    <div className="extra-said" aria-live="polite" data-stale={asked.stale || undefined}>
      {children}
    </div>
  );
}
