import { type ReactNode, useEffect, useId, useRef } from "react";
import { Button } from "react-bootstrap";
import { words } from "../words";
import { useKeys } from "./useKeys";
import "./side-panel.css";

interface Props {
  title: string;
  onClose: () => void;
  children: ReactNode;
}

/** What a first view leaves out, opened in its place: the answer and the action stay where they are. */
export function SidePanel({ title, onClose, children }: Props) {
  const id = useId();
  const panel = useRef<HTMLElement>(null);
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    const opener = document.activeElement;
    // Whoever reached into it by a key is where they wanted to be.
    if (!panel.current?.contains(opener)) heading.current?.focus();
    return () => {
      if (opener instanceof HTMLElement) opener.focus();
    };
  }, []);
  useKeys("escape", onClose, "position");
  return (
    <aside className="side-panel" aria-labelledby={id} ref={panel}>
      <div className="side-panel-head">
        <h2 id={id} tabIndex={-1} ref={heading}>
          {title}
        </h2>
        <Button variant="quiet" onClick={onClose}>
          {words.more.done}
        </Button>
      </div>
      <div className="side-panel-body">{children}</div>
    </aside>
  );
}
