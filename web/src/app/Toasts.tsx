import { useEffect } from "react";
import { Button } from "react-bootstrap";
import { type Standing, unsay, useMessages } from "../ui/say";

const STANDS_MS = 8000;

/** What was just done, each with its own way back, the latest nearest to the thumb. Always at hand: a way back must not be fetched first. */
export function Toasts() {
  const messages = useMessages();
  return (
    <div className="toast-container toasts" aria-live="polite">
      {messages.map((saying) => (
        <Saying key={saying.key} standing={saying} />
      ))}
    </div>
  );
}

function Saying({ standing: message }: { standing: Standing }) {
  useEffect(() => {
    const timer = window.setTimeout(() => unsay(message.key), STANDS_MS);
    return () => window.clearTimeout(timer);
  }, [message.key]);
  return (
    <div className="toast show" role="status">
      <div className="toast-body">
        <span>{message.text}</span>
        {message.action && (
          <Button
            variant="quiet"
            size="sm"
            onClick={() => {
              message.action?.act();
              unsay(message.key);
            }}
          >
            {message.action.label}
          </Button>
        )}
      </div>
    </div>
  );
}
