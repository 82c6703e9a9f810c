import { Link, Redirect, Route, Switch, useRoute } from "wouter";
import { bagWords } from "../../words/bag";
import { BagPage } from "./BagPage";
import { CardPage } from "./CardPage";
import { ReachPage } from "./ReachPage";
import "./bag.css";
import "./opened.css";
import "./measure.css";
import "./papers.css";

/** What somebody owns, what it really does, and what it reaches together. */
export function BagScreen() {
  const [whole] = useRoute("/bag");
  return (
    <div className={whole ? "bag bag-whole" : "bag"}>
      {!whole && (
        <Link to="/bag" className="page-back">
          {bagWords.title}
        </Link>
      )}
      <Switch>
        <Route path="/bag">
          <BagPage />
        </Route>
        <Route path="/bag/reach">
          <ReachPage />
        </Route>
        <Route path="/bag/card">
          <CardPage />
        </Route>
        <Route>
          <Redirect to="/bag" replace />
        </Route>
      </Switch>
    </div>
  );
}
