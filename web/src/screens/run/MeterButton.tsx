import { Button } from "react-bootstrap";
import { answer, api } from "../../api/client";
import { useOutings } from "../../state/outings";
import { say as toast } from "../../ui/say";
import type { Frame } from "../../state/frames";
import { words } from "../../words";
import { cameraSeconds } from "../../state/clock";
import { reread, useArmed } from "../../state/running";

/** The simulated meter, read at the metering and now: the difference is a reading on the way. */
export function MeterButton({ frame }: { frame: Frame }) {
  const { current } = useOutings();
  const armedAt = useArmed()?.list?.sun?.at;
  if (armedAt === undefined) return null;
  const read = async () => {
    const { latitude, longitude, sky } = current;
    const at = async (ms: number) => {
      const body = { latitude, longitude, sky, seed: 1, at: new Date(ms).toISOString() };
      return (await answer(api.POST("/api/standins/meter", { body }))).ev100;
    };
    const metered = Date.parse(armedAt) - (frame.run?.delay_seconds ?? 0) * 1000;
    try {
      const [then, now] = await Promise.all([at(metered), at(Date.parse(armedAt) + cameraSeconds(frame) * 1000)]);
      reread(frame, now - then);
    } catch {
      toast({ text: words.trouble.unreachable });
    }
  };
  return (
    <Button variant="quiet" onClick={() => void read()}>
      {words.run.meter}
    </Button>
  );
}
