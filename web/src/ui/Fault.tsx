import { Button } from "react-bootstrap";
import { Refused } from "../api/client";
import { words } from "../words";
import { faultText } from "./faultText";

interface Props {
  error: unknown;
  /** Ask once more, where silence may be over by then. */
  again?: (() => void) | undefined;
}

/** What went wrong and what to do about it; nothing while nothing is wrong. */
export function Fault({ error, again }: Props) {
  if (error === null || error === undefined) return null;
  const faults = error instanceof Refused ? error.faults : [];
  return (
    <div className="fault-box" role="alert">
      {faults.length > 1 ? (
        <ul className="plain-list fault">
          {faults.map((fault) => (
            <li key={fault.field + fault.problem}>
              {fault.problem} {fault.instead}
            </li>
          ))}
        </ul>
      ) : (
        <p className="fault">{faultText(error)}</p>
      )}
      {again && !(error instanceof Refused) && (
        <Button variant="quiet" onClick={again}>
          {words.trouble.again}
        </Button>
      )}
    </div>
  );
}
