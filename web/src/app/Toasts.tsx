import { useEffect } from "react";
import { Button } from "react-bootstrap";
import { type Standing, unsay, useSaid } from "../ui/say";

const STANDS_MS = 8000;

/** What was just done, each with its own way back, the latest nearest to the thumb. Always at hand: a way back must not be fetched first. */
export function Toasts() {
  const said = useSaid();
  return (
    <div className="toast-container toasts" aria-live="polite">
      {said.map((one) => (
        <Saying key={one.key} one={one} />
      ))}
    </div>
  );
}

function Saying({ one }: { one: Standing }) {
  useEffect(() => {
    const timer = window.setTimeout(() => unsay(one.key), STANDS_MS);
    return () => window.clearTimeout(timer);
  }, [one.key]);
  return (
    <div className="toast show" role="status">
      <div className="toast-body">
        <span>{one.text}</span>
        {one.action && (
          <Button
            variant="quiet"
            size="sm"
            onClick={() => {
              one.action?.act();
              unsay(one.key);
            }}
          >
            {one.action.label}
          </Button>
        )}
      </div>
    </div>
  );
}
