import { Button } from "react-bootstrap";
import { Link } from "wouter";
import { useNow } from "../../ui/useNow";
import { words } from "../../words";
import { lightOf } from "../../state/asks";
import { leaveText } from "./leaveText";
import { useLeaving } from "./leaving";
import { goingOn, useOutings } from "../../state/outings";
import { minutesText } from "../../words/rate";
import { useLight } from "../../questions/light";
import "./leaving.css";

/** In the header while an outing goes on: what comes next, and when to leave. */
export function Countdown() {
  const { outings, current, choose } = useOutings();
  const now = useNow(1000);
  const outing = goingOn(outings, current, now);
  const light = useLight(outing?.id ?? "", outing ? lightOf(outing) : null).answer;
  const leaving = useLeaving(outing, outings);
  if (!outing) return null;
  const say = words.leaving;
  const next = light?.events.find((event) => event.at != null && Date.parse(event.at) > now);
  if (!next && !leaving) return null;
  return (
    <>
      <Link to="/outing" className="countdown" onClick={() => choose(outing.id)}>
        {next?.at != null && <span>{say.to(minutes(Date.parse(next.at) - now), words.events[next.name] ?? "")}</span>}
        {leaving && (leaving.left !== null || leaving.tide.state !== "dry") && (
          <strong
            data-why={leaving.left === null || undefined}
            data-late={leaving.alarm !== "none" || leaving.left === null || undefined}
          >
            {leaving.left === null
              ? leaveText(leaving.tide, outing.zone)
              : leaving.left > 0
                ? say.leaveIn(minutes(leaving.left))
                : say.leaveNow}
          </strong>
        )}
      </Link>
      {leaving && leaving.alarm !== "none" && (
        <div className="leave-alarm" role="alert">
          <strong>
            {leaving.alarm === "now" ? say.alarm : say.warned(Math.max(1, Math.ceil((leaving.left ?? 0) / 60_000)))}
          </strong>
          <Button variant="quiet" onClick={leaving.hear}>
            {say.heard}
          </Button>
        </div>
      )}
    </>
  );
}

function minutes(ms: number): string {
  return minutesText(Math.max(1, Math.round(ms / 60_000)));
}
