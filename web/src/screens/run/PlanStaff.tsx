import { memo } from "react";
import { Staff } from "../../parts/staff/Staff";
import type { Frame } from "../../state/frames";
import { useMeasured } from "../../ui/useMeasured";

interface Props {
  plan: Pick<Frame, "answer" | "stack" | "settings" | "dial_limit">;
}

/** The armed sum on the staff. */
export const PlanStaff = memo(function PlanStaff({ plan }: Props) {
  const [stage, size] = useMeasured<HTMLDivElement>();
  const answer = plan.answer;
  return (
    <div className="run-staff" ref={stage}>
      {size && (
        <Staff
          answer={{
            ...answer,
            stops: answer.steps.reduce((sum, step) => sum + step.stops, 0),
            // Here the plan is fixed: what was unsure was shown when it was made.
            from_seconds: answer.seconds,
            to_seconds: answer.seconds,
          }}
          stack={plan.stack}
          settings={plan.settings}
          metered={plan.settings.aperture !== ""}
          dialLimit={plan.dial_limit}
          width={size.width}
          height={size.height}
        />
      )}
    </div>
  );
});
