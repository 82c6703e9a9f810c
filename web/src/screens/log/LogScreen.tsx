import { Navigate, NavLink, Route, Routes } from "react-router";
import { logWords } from "../../words/log";
import { CardPage } from "./CardPage";
import { ComparePage } from "./ComparePage";
import { FilesPage } from "./FilesPage";
import { FramePage } from "./FramePage";
import { FramesPage } from "./FramesPage";
import { GlassPage } from "./GlassPage";
import { LessonsPage } from "./LessonsPage";
import { MeasurePage } from "./MeasurePage";
import "./log.css";
import "./frame.css";
import "./learnt.css";
import "./papers.css";
import "./narrow.css";

const PAGES = [
  ["/log", logWords.pages.frames],
  ["/log/glass", logWords.pages.glass],
  ["/log/measure", logWords.pages.measure],
  ["/log/lessons", logWords.pages.lessons],
  ["/log/card", logWords.pages.card],
  ["/log/files", logWords.pages.files],
] as const;

/** Everything that comes after the frame, page by page. */
export function LogScreen() {
  return (
    <div className="log">
      <nav className="log-pages" aria-label={logWords.pages.label}>
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
        <Route path="glass" element={<GlassPage />} />
        <Route path="measure" element={<MeasurePage />} />
        <Route path="lessons" element={<LessonsPage />} />
        <Route path="card" element={<CardPage />} />
        <Route path="files" element={<FilesPage />} />
        <Route path="*" element={<Navigate to="/log" replace />} />
      </Routes>
    </div>
  );
}
