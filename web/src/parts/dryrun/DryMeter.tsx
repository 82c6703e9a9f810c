import { Button } from "react-bootstrap";
import type { Bench, Laid } from "../../state/bench";
import { readMeter } from "../../state/dryRun";
import { faultText } from "../../ui/faultText";
import { say as toast } from "../../ui/say";
import { useKeys } from "../../ui/useKeys";
import { dryRunWords as say } from "../../words/dryRun";
import { markText } from "../../words/times";

interface Props {
  laid: Laid;
  set: (change: Partial<Bench>) => void;
}

/** The simulated camera's meter of a dry run: bare, or through what is on the lens, as one asks. */
export function DryMeter({ laid: { bench, stack }, set }: Props) {
  const read = async (through: boolean) => {
    try {
      const settings = { aperture: bench.aperture, iso: bench.iso };
      const shown = await readMeter(settings, through);
      if (shown === null) return;
      if (bench.meter === "hand") set({ ev100: shown.ev100 });
      else if (shown.shutter == null) toast({ text: shown.text });
      // A time is what was metered at these settings, whatever was turned while one waited for it.
      else set({ shutter: markText(shown.shutter), ...settings });
    } catch (error) {
      toast({ text: faultText(error) });
    }
  };
  useKeys("u", () => void read(false));
  return (
    <div className="dry-meter">
      <Button variant="quiet" onClick={() => void read(false)}>
        {say.meterBare} <kbd aria-hidden="true">U</kbd>
      </Button>
      {stack.length > 0 && bench.meter === "camera" && (
        <Button variant="quiet" onClick={() => void read(true)}>
          {say.meterThrough}
        </Button>
      )}
      <span className="quiet">{say.meterSimulated}</span>
    </div>
  );
}
