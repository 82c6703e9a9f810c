import type { Fault } from "../../api/client";

/** What is wrong with one field, beside it. */
export function FaultText({ id, fault }: { id: string; fault: Fault | undefined }) {
  if (!fault) return null;
  return (
    <p className="fault" id={id}>
      {fault.problem} {fault.instead}
    </p>
  );
}
