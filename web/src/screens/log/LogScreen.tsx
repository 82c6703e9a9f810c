import { Navigate, NavLink, Route, Routes } from "react-router";
import { logWords } from "../../words/log";
import { ComparePage } from "./ComparePage";
import { DryRunsPage } from "./DryRunsPage";
import { FilesPage } from "./FilesPage";
import { FramePage } from "./FramePage";
import { FramesPage } from "./FramesPage";
import { LessonsPage } from "./LessonsPage";
import { PracticePage } from "./PracticePage";
import { ReplayPage } from "./ReplayPage";
import "./log.css";
import "./frame.css";
import "./learnt.css";
import "./files.css";
import "./narrow.css";

const PAGES = [
  ["/log", logWords.pages.frames],
  ["/log/lessons", logWords.pages.lessons],
  ["/log/practice", logWords.pages.practice],
  ["/log/files", logWords.pages.files],
] as const;

/** Everything that comes after the frame, page by page. */
export function LogScreen() {
  return (
    <div className="log">
      <nav className="pages" aria-label={logWords.pages.label}>
        {PAGES.map(([to, label]) => (
          <NavLink key={to} to={to} end={to === "/log"}>
            {label}
          </NavLink>
        ))}
      </nav>
      <Routes>
        <Route index element={<FramesPage />} />
        <Route path="frame/:id" element={<FramePage />} />
        <Route path="compare/:first/:second" element={<ComparePage />} />
        <Route path="lessons" element={<LessonsPage />} />
        <Route path="practice" element={<PracticePage />} />
        <Route path="practice/runs" element={<DryRunsPage />} />
        <Route path="practice/runs/:id" element={<ReplayPage />} />
        <Route path="files" element={<FilesPage />} />
        <Route path="glass" element={<Navigate to="/bag" replace />} />
        <Route path="measure" element={<Navigate to="/bag" replace />} />
        <Route path="card" element={<Navigate to="/bag/card" replace />} />
        <Route path="*" element={<Navigate to="/log" replace />} />
      </Routes>
    </div>
  );
}
