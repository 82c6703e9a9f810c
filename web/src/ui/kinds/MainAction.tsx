import type { ReactNode } from "react";
import { Button } from "react-bootstrap";

interface Props {
  onAct: () => void;
  disabled?: boolean;
  children: ReactNode;
  /** What it comes to, at its right: a time or a count. */
  result?: ReactNode;
}

/** The pennant at the foot: the one next step of a view. */
export function MainAction({ onAct, disabled = false, children, result }: Props) {
  return (
    <Button variant="signal" className="main-action" onClick={onAct} disabled={disabled}>
      <span>{children}</span>
      {result != null && <em>{result}</em>}
    </Button>
  );
}
