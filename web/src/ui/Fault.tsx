import { Refused } from "../api/client";
import { words } from "../words";

/** What went wrong, in the server's own words where it answered; nothing while nothing is wrong. */
export function Fault({ error }: { error: Error | null | undefined }) {
  if (!error) return null;
  const faults = error instanceof Refused ? error.faults : [];
  if (faults.length > 1)
    return (
      <ul className="plain-list fault" role="alert">
        {faults.map((one) => (
          <li key={one.field + one.problem}>
            {one.problem} {one.instead}
          </li>
        ))}
      </ul>
    );
  return (
    <p className="fault" role="alert">
      {error.message || words.trouble.unreachable}
    </p>
  );
}
