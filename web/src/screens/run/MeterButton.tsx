import { SimulatedMeter } from "../../parts/meter/SimulatedMeter";
import { askMeter } from "../../questions/light";
import { cameraSeconds } from "../../state/clock";
import type { Frame } from "../../state/frames";
import { goingOn, useOutings } from "../../state/outings";
import { reread, useArmed } from "../../state/running";

/** The simulated meter, read at the metering and now: the difference is a reading on the way. */
export function MeterButton({ frame }: { frame: Frame }) {
  const { outings, current } = useOutings();
  const armedAt = useArmed()?.list?.sun?.at;
  if (armedAt === undefined) return null;
  const read = async () => {
    const { latitude, longitude, sky } = goingOn(outings, current, Date.parse(armedAt)) ?? current;
    const at = (ms: number) => askMeter({ latitude, longitude, sky, seed: 1, at: new Date(ms).toISOString() });
    const metered = Date.parse(armedAt) - (frame.run?.delay_seconds ?? 0) * 1000;
    const [then, now] = await Promise.all([at(metered), at(Date.parse(armedAt) + cameraSeconds(frame) * 1000)]);
    await reread(frame, now - then);
  };
  return <SimulatedMeter read={read} />;
}
