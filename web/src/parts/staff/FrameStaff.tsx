import { useMeasured } from "../../ui/useMeasured";
import { SmallStaff } from "./SmallStaff";
import type { Frame } from "../../state/frames";

/** A frame's staff in small, as wide as the place it stands in. */
export function FrameStaff({ frame }: { frame: Frame }) {
  const [stage, size] = useMeasured<HTMLDivElement>();
  return (
    <div className="log-staff" ref={stage}>
      {size && (
        <SmallStaff
          answer={frame.answer}
          stack={frame.stack}
          settings={frame.settings}
          dialLimit={frame.dial_limit}
          actual={frame.actual_seconds}
          width={size.width}
        />
      )}
    </div>
  );
}
