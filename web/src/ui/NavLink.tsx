import type { ReactNode } from "react";
import { Link, useLocation } from "wouter";

/** A link that says whether one is there, or, without `end`, beneath it. */
export function NavLink({ to, end = false, children }: { to: string; end?: boolean; children: ReactNode }) {
  const [at] = useLocation();
  const here = at === to || (!end && at.startsWith(`${to}/`));
  return (
    <Link to={to} className={here ? "active" : ""} aria-current={here ? "page" : undefined}>
      {children}
    </Link>
  );
}
