import { AccountButton } from "../../parts/account/AccountButton";
import { NavLink } from "../../ui/NavLink";
import { Redirect, Route, Switch } from "wouter";
import { bagWords } from "../../words/bag";
import { BagPage } from "./BagPage";
import { CardPage } from "./CardPage";
import { ReachPage } from "./ReachPage";
import "./bag.css";
import "./opened.css";
import "./measure.css";
import "./papers.css";

const PAGES = [
  ["/bag", bagWords.pages.bag],
  ["/bag/reach", bagWords.pages.reach],
  ["/bag/card", bagWords.pages.card],
] as const;

/** What somebody owns, what it really does, and what it reaches together. */
export function BagScreen() {
  return (
    <div className="bag">
      <nav className="pages" aria-label={bagWords.pages.label}>
        {PAGES.map(([to, label]) => (
          <NavLink key={to} to={to} end>
            {label}
          </NavLink>
        ))}
        <span className="bag-account">
          <AccountButton />
        </span>
      </nav>
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
