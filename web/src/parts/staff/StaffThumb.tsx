import { partsOf, type Summed } from "./parts";
import "./staff.css";

/** How large it is drawn [px], and how many stops fill it. */
const WIDE = 96;
const HIGH = 64;
const STOPS = 16;
const POLE = 4;
const FLAG = 10;

interface Props {
  frame: Summed & { answer: { seconds: number; base_seconds: number } };
}

/** A frame by its own blocks, where there is no picture of it. */
export function StaffThumb({ frame }: Props) {
  const parts = partsOf(frame).filter(({ kind }) => kind === "glass");
  const px = (HIGH - FLAG) / STOPS;
  const place = (seconds: number) => HIGH - Math.max(0, Math.log2(seconds / frame.answer.base_seconds)) * px;
  const top = Math.max(0, place(frame.answer.seconds) - FLAG);
  const x = WIDE / 2 - 16;
  return (
    <svg className="staff staff-thumb" width={WIDE} height={HIGH} aria-hidden="true">
      {parts.map((part) => (
        <g key={part.key} className={`shade-${Math.min(4, Math.floor(part.stops / 3))}`}>
          <rect
            x={x + POLE + 2}
            width={30}
            y={Math.max(0, place(part.to))}
            height={Math.max(1, place(part.from) - place(part.to) - 1)}
          />
        </g>
      ))}
      <rect className="pole" x={x} y={0} width={POLE} height={HIGH} />
      <path className="thumb-flag" d={`M${x + POLE} ${top} h26 l-4 ${FLAG / 2} l4 ${FLAG / 2} h-26 Z`} />
    </svg>
  );
}
