import { Button } from "react-bootstrap";
import { words } from "../words";

/** A piece of the program is missing: it may be asked for again, or the page, where a newer version has taken its place. */
export function Missing({ onAgain }: { onAgain: () => void }) {
  const say = words.missing;
  return (
    <div className="missing-piece" role="alert">
      <p>{say.text}</p>
      <Button variant="signal" onClick={onAgain}>
        {words.trouble.again}
      </Button>
      <Button variant="quiet" onClick={() => window.location.reload()}>
        {say.reload}
      </Button>
    </div>
  );
}
