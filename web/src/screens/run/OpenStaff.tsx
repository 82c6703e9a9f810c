import { memo } from "react";
import { LightStaff } from "../../parts/staff/LightStaff";
import { useMeasured } from "../../ui/useMeasured";

interface Props {
  enough: number;
  elapsed: number;
  gathered: number | null;
  closes: number | null;
}

/** The light gathered so far, as large as its place. */
export const OpenStaff = memo(function OpenStaff(props: Props) {
  const [stage, size] = useMeasured<HTMLDivElement>();
  return (
    <div className="run-staff" ref={stage}>
      {size && <LightStaff {...props} width={size.width} height={size.height} />}
    </div>
  );
});
