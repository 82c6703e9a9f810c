import { Button } from "react-bootstrap";
import { faultText } from "../../ui/faultText";
import { say as toast } from "../../ui/say";
import { words } from "../../words";

/** The hand meter that ships, for practice: what it cannot read it says. */
export function SimulatedMeter({ read }: { read: () => Promise<void> }) {
  const press = () => read().catch((error: unknown) => toast({ text: faultText(error) }));
  return (
    <Button variant="quiet" onClick={() => void press()}>
      {words.meter}
    </Button>
  );
}
