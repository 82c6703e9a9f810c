import { useEffect, useState } from "react";
import { Button } from "react-bootstrap";
import { type Standing, unsay, useMessages } from "../ui/say";
import { words } from "../words";

const STANDS_MS = 8000;

/**
 * What was just done, each with its own way back, the latest nearest to the thumb. Always at hand: a way back must not be fetched first.
 * It goes by itself, but not from under the pointer or the keyboard that is on its way to it, and at once when it is in the way.
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
  const [pointed, setPointed] = useState(false);
  const [focused, setFocused] = useState(false);
  const held = pointed || focused;
  useEffect(() => {
    if (held) return;
    const timer = window.setTimeout(() => unsay(message.key), STANDS_MS);
    return () => window.clearTimeout(timer);
  }, [message.key, held]);
  return (
    <div
      className="toast show"
      role="status"
      onPointerEnter={(event) => setPointed(event.pointerType === "mouse")}
      onPointerLeave={() => setPointed(false)}
      onFocus={() => setFocused(true)}
      onBlur={() => setFocused(false)}
    >
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
