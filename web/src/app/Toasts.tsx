import { useEffect, useRef } from "react";
import { Button } from "react-bootstrap";
import { type Standing, unsay, useMessages } from "../ui/say";
import { words } from "../words";

const STANDS_MS = 8000;

/**
 * What was just done, each with its own way back, the latest nearest to the thumb. Always at hand: a way back must not be fetched first.
 * It goes by itself, but not from under the mouse or the keyboard that is on its way to it, and at once when it is in the way.
 */
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
  const toast = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const go = () => {
      if (toast.current?.matches(reached())) timer = window.setTimeout(go, STANDS_MS);
      else unsay(message.key);
    };
    let timer = window.setTimeout(go, STANDS_MS);
    return () => window.clearTimeout(timer);
  }, [message.key]);
  return (
    <div ref={toast} className="toast show" role="status">
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
        <Button
          variant="quiet"
          className="toast-close"
          aria-label={words.header.hide}
          onClick={() => unsay(message.key)}
        >
          ×
        </Button>
      </div>
    </div>
  );
}

/** A finger leaves its hover behind where it last touched; only a mouse's tells where the hand is. */
function reached(): string {
  return window.matchMedia("(hover: hover)").matches ? ":hover, :focus-within" : ":focus-within";
}
