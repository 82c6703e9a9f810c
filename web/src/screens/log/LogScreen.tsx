import { Link, Redirect, Route, Switch, useLocation, useRoute } from "wouter";
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

/** Everything that comes after the frame, page by page. */
export function LogScreen() {
  const [whole] = useRoute("/log");
  const [path] = useLocation();
  // What lies within practice leads back to it.
  const back = /^\/log\/practice\/runs/.test(path) ? "/log/practice" : "/log";
  return (
    <div className="log">
      {!whole && (
        <Link to={back} className="page-back">
          {back === "/log" ? logWords.title : logWords.pages.practice}
        </Link>
      )}
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
