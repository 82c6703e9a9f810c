import { Link } from "wouter";
import { logWords } from "../../words/log";

/** A frame that is not in the log, or no longer. */
export function NoFrame() {
  return (
    <div className="empty">
      <p>{logWords.gone}</p>
      <Link to="/log" className="btn btn-quiet">
        {logWords.back}
      </Link>
    </div>
  );
}
