import { NavLink, Outlet } from "react-router";
import { words } from "../../words";
import "./log.css";
import "./frame.css";
import "./learnt.css";
import "./papers.css";
import "../../parts/review/review.css";
import "./narrow.css";

const PAGES = [
  ["/log", words.log.pages.frames],
  ["/log/glass", words.log.pages.glass],
  ["/log/measure", words.log.pages.measure],
  ["/log/lessons", words.log.pages.lessons],
  ["/log/card", words.log.pages.card],
  ["/log/files", words.log.pages.files],
] as const;

/** Everything that comes after the frame, page by page. */
export function LogLayout() {
  return (
    <div className="log">
      <nav className="log-pages" aria-label={words.log.pages.label}>
        {PAGES.map(([to, label]) => (
          <NavLink key={to} to={to} end={to === "/log"}>
            {label}
          </NavLink>
        ))}
      </nav>
      <Outlet />
    </div>
  );
}
