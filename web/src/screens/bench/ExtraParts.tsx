import type { ReactNode } from "react";
import { Refused } from "../../api/client";
import { words } from "../../words";

export function Said({ error, children }: { error: Error | null; children: ReactNode }) {
  if (error) {
    return (
      <p className="fault" role="alert">
        {error instanceof Refused ? error.message : words.trouble.unreachable}
      </p>
    );
  }
  return (
    <div className="extra-said" aria-live="polite">
      {children}
    </div>
  );
}
