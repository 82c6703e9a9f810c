import { NavLink } from "../../ui/NavLink";
import { Redirect, Route, Switch } from "wouter";
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
      <Switch>
        <Route path="/log">
          <FramesPage />
        </Route>
        <Route path="/log/frame/:id">
          <FramePage />
        </Route>
        <Route path="/log/compare/:first/:second">
          <ComparePage />
        </Route>
        <Route path="/log/lessons">
          <LessonsPage />
        </Route>
        <Route path="/log/practice">
          <PracticePage />
        </Route>
        <Route path="/log/practice/runs">
          <DryRunsPage />
        </Route>
        <Route path="/log/practice/runs/:id">
          <ReplayPage />
        </Route>
        <Route path="/log/files">
          <FilesPage />
        </Route>
        <Route path="/log/glass">
          <Redirect to="/bag" replace />
        </Route>
        <Route path="/log/measure">
          <Redirect to="/bag" replace />
        </Route>
        <Route path="/log/card">
          <Redirect to="/bag/card" replace />
        </Route>
        <Route>
          <Redirect to="/log" replace />
        </Route>
      </Switch>
    </div>
  );
}
