import { here } from "../api/here";
import { canTake, isHeldBack, takenAlong, wasTaken } from "./taken";

/** When what takes along (takeAlong.ts) is fetched: on the next visit, when it is asked, or ahead of time. */

/** When the hands rest after the first frame was set up [ms]: what the page itself needs comes first. */
const AHEAD_MS = 60_000;
/** A piece that did not come is asked for once more after so long [ms]. */
const AGAIN_MS = 1500;

/** What was taken along before is there again: at once when somebody needs it, else when the hands rest. */
export async function recall(): Promise<void> {
  if (!canTake() || !wasTaken()) return;
  try {
    (await patiently()).recall();
  } catch {
    // Then the server alone is asked.
  }
}

let ahead = false;

/**
 * Somebody sets up frames with this: when the hands rest it is fetched by itself, so that a signal lost later takes
 * nothing away. Not where the browser says that data are dear, and not while `isBusy`.
 */
export function takeAhead(isBusy: () => boolean): void {
  if (ahead || !canTake() || wasTaken()) return;
  ahead = true;
  const look = () => {
    if (isHeldBack() || isDear() || takenAlong().stage !== "none") return;
    if (isBusy() || document.visibilityState !== "visible") window.setTimeout(look, AHEAD_MS);
    else void patiently().then(({ take }) => take());
  };
  window.setTimeout(look, AHEAD_MS);
}

/** What browsers say of the network, where they do. */
interface Connection {
  saveData?: boolean;
  type?: string;
  effectiveType?: string;
}

/** Whether data are dear, as far as the browser says. */
function isDear(): boolean {
  const { connection } = navigator as { connection?: Connection };
  if (!connection) return false;
  return connection.saveData === true || connection.type === "cellular" || /2g/.test(connection.effectiveType ?? "");
}

/** What takes along, asked for again where a weak signal lost it. */
async function patiently() {
  try {
    return await import("./takeAlong");
  } catch {
    await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    return import("./takeAlong");
  }
}

here.ask = async (name, body, signal) => (await patiently()).askHere(name, body, signal);
