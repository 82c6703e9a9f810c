import { useLocation } from "wouter";
import { useArmed } from "../../state/running";
import { useEffect, useState } from "react";
import { words } from "../../words";
import { JustTime } from "./JustTime";
import "./run.css";
import "./narrow.css";

/** A plain timer, for whoever has worked the time out elsewhere; what it is set to is run where every frame is. */
export function TimerScreen() {
  const armed = useArmed();
  const [before] = useState(armed);
  const [, navigate] = useLocation();
  useEffect(() => {
    if (armed !== before && armed !== null) navigate("/run");
  }, [armed, before, navigate]);
  return (
    <div className="empty">
      <h1>{words.more.timer}</h1>
      <JustTime />
    </div>
  );
}
