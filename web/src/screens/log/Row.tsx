import { Form } from "react-bootstrap";
import { Link } from "wouter";
import { StaffThumb } from "../../parts/staff/StaffThumb";
import { usePicture } from "../../questions/log";
import type { Frame } from "../../state/frames";
import { useSession } from "../../state/session";
import { logWords as say } from "../../words/log";
import { actualTime, askedText, plannedTime } from "../../words/times";
import { baseText, clockOf, closedText, glassText, settingsText, verdictText } from "./frameText";

interface Props {
  frame: Frame;
  picked: boolean;
  /** Takes it for comparing; none beside an opened frame. */
  onPick: (() => void) | null;
  chosen: boolean;
}

/** A frame in the list: its picture or its blocks, how long it was open, how it came out. */
export function Row({ frame, picked, onPick, chosen }: Props) {
  const { answer: planned, review } = frame;
  const asked = askedText(frame);
  const { account } = useSession();
  const picture = usePicture(frame.pictured ? frame.id : null, account);
  const facts = [
    baseText(frame),
    `${say.columns.planned} ${plannedTime(planned)}`,
    asked === null ? "" : `${say.columns.asked} ${asked}`,
    frame.refused == null ? closedText(frame) : say.countsNot,
  ];
  return (
    <li className="log-row" data-chosen={chosen || undefined}>
      <span className="log-picture">
        {picture ? (
          <span className="photo">
            <img src={`data:image/jpeg;base64,${picture.small}`} alt="" />
          </span>
        ) : (
          <StaffThumb frame={frame} />
        )}
      </span>
      <div className="log-set">
        <Link to={`/log/frame/${frame.id}`} aria-current={chosen ? "page" : undefined}>
          <strong>{frame.state === "open" ? say.running : actualTime(frame)}</strong>
        </Link>
        <span>
          <time dateTime={frame.opened_at}>{clockOf(frame)}</time> {glassText(frame)}, {settingsText(frame)}
        </span>
        <span className="quiet">{facts.filter(Boolean).join(", ")}</span>
        {frame.note && <span>{frame.note}</span>}
      </div>
      <div className="log-error">
        {review?.error_stops != null && <VerdictDot stops={review.error_stops} />}
        <span>{verdictText(review?.error_stops)}</span>
      </div>
      {onPick && (
        <Form.Check
          id={`compare-${frame.id}`}
          label={say.compare.pick}
          checked={picked}
          onChange={onPick}
          disabled={frame.state === "open"}
        />
      )}
    </li>
  );
}

/** Darker, good or brighter, as a dot on a line of two stops to either side. */
function VerdictDot({ stops }: { stops: number }) {
  const at = 36 + Math.max(-2, Math.min(2, stops)) * 16;
  return (
    <svg className="verdict-dot" width="72" height="16" aria-hidden="true">
      <line x1="0" x2="72" y1="8" y2="8" />
      <line className="verdict-middle" x1="36" x2="36" y1="2" y2="14" />
      <circle cx={at} cy="8" r="5" />
    </svg>
  );
}
