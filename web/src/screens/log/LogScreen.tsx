import { type RefObject, useLayoutEffect, useRef } from "react";
import { Link, Redirect, Route, Switch, useLocation, useParams, useRoute } from "wouter";
import { useWide } from "../../ui/useWide";
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

/** Every page begins at its top; whoever comes back to the list finds it where it was left. */
function useScrollPlace(path: string): RefObject<HTMLDivElement | null> {
  const box = useRef<HTMLDivElement>(null);
  const left = useRef(new Map<string, number>());
  useLayoutEffect(() => {
    const element = box.current;
    const places = left.current;
    if (!element) return;
    element.scrollTo({ top: path === "/log" ? (places.get(path) ?? 0) : 0 });
    const note = () => places.set(path, element.scrollTop);
    element.addEventListener("scroll", note, { passive: true });
    return () => element.removeEventListener("scroll", note);
  }, [path]);
  return box;
}

/** A frame; where there is room, beside the list it was chosen from. */
function FrameBeside() {
  const { id } = useParams();
  const wide = useWide();
  if (!wide) return <FramePage />;
  return (
    <div className="log-two">
      <FramesPage chosen={id ?? ""} />
      <FramePage />
    </div>
  );
}

/** Everything that comes after the frame, page by page. */
export function LogScreen() {
  const [whole] = useRoute("/log");
  const [path] = useLocation();
  // What lies within practice leads back to it.
  const box = useScrollPlace(path);
  const back = /^\/log\/practice\/runs/.test(path) ? "/log/practice" : "/log";
  return (
    <div className="log" ref={box}>
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
          <FrameBeside />
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
