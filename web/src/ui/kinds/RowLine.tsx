import type { ReactNode } from "react";

interface Props {
  name: string;
  /** Its reason, beneath. */
  why?: ReactNode;
  result?: ReactNode;
  onOpen: () => void;
}

/** A row between hairlines that opens what it names. */
export function RowLine({ name, why, result, onOpen }: Props) {
  return (
    <button type="button" className="row-line" onClick={onOpen}>
      <span>
        <strong>{name}</strong>
        {why != null && <small>{why}</small>}
      </span>
      {result != null && <span className="row-result">{result}</span>}
    </button>
  );
}
