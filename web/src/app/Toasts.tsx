import { useEffect } from "react";
import { Button } from "react-bootstrap";
import { type Standing, unsay, useSaid } from "../ui/say";

const STANDS_MS = 8000;

/** What was just done, each with its own way back, the latest nearest to the thumb. Always at hand: a way back must not be fetched first. */
export function Toasts() {
  const said = useSaid();
  return (
    <div className="toast-container toasts" aria-live="polite">
      {said.map((saying) => (
        <Saying key={saying.key} one={saying} />
      ))}
    </div>
  );
}

function Saying({ one: saying }: { one: Standing }) {
  useEffect(() => {
    const timer = window.setTimeout(() => unsay(saying.key), STANDS_MS);
    return () => window.clearTimeout(timer);
  }, [saying.key]);
  return (
    <div className="toast show" role="status">
      <div className="toast-body">
        <span>{saying.text}</span>
        {saying.action && (
          <Button
            variant="quiet"
            size="sm"
            onClick={() => {
              saying.action?.act();
              unsay(saying.key);
            }}
          >
            {saying.action.label}
          </Button>
        )}
      </div>
    </div>
  );
}
