import { NavLink } from "../../ui/NavLink";
import { dryRunWords } from "../../words/dryRun";

/** Quick drills or a dry run. */
export function PracticeKinds() {
  const say = dryRunWords.page;
  return (
    <nav className="practice-kinds" aria-label={say.kinds}>
      <NavLink to="/log/practice" end>
        {say.drills}
      </NavLink>
      <NavLink to="/log/practice/runs">{say.runs}</NavLink>
    </nav>
  );
}
