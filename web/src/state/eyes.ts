import { askSkySeen, type SkyKind } from "../questions/lightWatch";
import { cellsOf } from "../ui/cells";

/** What is seen at one look; null while the eye is shut. */
interface Sight {
  cells: (number | null)[];
  columns: number;
  held: boolean;
  exposure_seconds: number | null;
  iso: number | null;
}

/** Whatever looks at the scene: a phone's camera, or the stand-in that ships. */
export interface Eyes {
  see: () => Promise<Sight | null>;
  /** Find another exposure, for light that has left what this one can show; it has to be told, so that it can be counted. */
  settle?: () => Promise<void>;
  close: () => void;
}

/** Why nothing can be watched. */
export type Unseen = "insecure" | "refused" | "none" | "busy";

export class CannotSee extends Error {
  readonly why: Unseen;

  constructor(why: Unseen) {
    super(why);
    this.name = "CannotSee";
    this.why = why;
  }
}

const COLUMNS = 16;
const ROWS = 12;
const [WIDTH, HEIGHT] = [160, 120];
/** Exposure times are told in units of 0.1 ms (Image Capture). */
const TOLD_UNIT_S = 1e-4;
/** How long the camera finds its exposure by itself before it is held [ms]. */
const SETTLES_MS = 1200;

/** What browsers know of a camera beside the usual (W3C MediaStream Image Capture). */
interface CameraSettings extends MediaTrackSettings {
  exposureMode?: string;
  whiteBalanceMode?: string;
  exposureTime?: number;
  iso?: number;
}
interface CameraCapabilities extends MediaTrackCapabilities {
  exposureMode?: string[];
  whiteBalanceMode?: string[];
}

function canvas(): CanvasRenderingContext2D {
  const made = document.createElement("canvas");
  [made.width, made.height] = [WIDTH, HEIGHT];
  const context = made.getContext("2d", { willReadFrequently: true });
  if (!context) throw new CannotSee("none");
  return context;
}

function measured(context: CanvasRenderingContext2D, picture: CanvasImageSource): (number | null)[] {
  context.drawImage(picture, 0, 0, WIDTH, HEIGHT);
  return cellsOf(context.getImageData(0, 0, WIDTH, HEIGHT).data, WIDTH, HEIGHT, COLUMNS, ROWS);
}

/** The phone's own camera, its exposure and white balance held where the browser can. `onEnd` hears when it is taken away. */
export async function cameraEyes(onEnd: () => void): Promise<Eyes> {
  const devices = navigator.mediaDevices as MediaDevices | undefined;
  if (!devices) throw new CannotSee("insecure");
  const stream = await devices
    .getUserMedia({
      video: {
        facingMode: "environment",
        width: { ideal: 320 },
        height: { ideal: 240 },
        frameRate: { ideal: 2, max: 15 },
      },
    })
    .catch((error: unknown) => {
      const name = error instanceof DOMException ? error.name : "";
      throw new CannotSee(
        name === "NotAllowedError" ? "refused" : name === "NotReadableError" || name === "AbortError" ? "busy" : "none",
      );
    });
  const close = () => stream.getTracks().forEach((each) => each.stop());
  const [track] = stream.getVideoTracks();
  if (!track) {
    close();
    throw new CannotSee("none");
  }
  track.addEventListener("ended", onEnd);
  const video = document.createElement("video");
  video.muted = true;
  video.playsInline = true;
  video.srcObject = stream;
  try {
    await video.play();
  } catch {
    close();
    throw new CannotSee("busy");
  }
  const settle = async () => {
    await new Promise((resolve) => setTimeout(resolve, SETTLES_MS));
    await hold(track);
  };
  await settle();
  const context = canvas();
  return {
    see: () => {
      if (track.muted || video.readyState < HTMLMediaElement.HAVE_CURRENT_DATA) return Promise.resolve(null);
      const reported = track.getSettings() as CameraSettings;
      return Promise.resolve({
        cells: measured(context, video),
        columns: COLUMNS,
        held: reported.exposureMode === "manual",
        exposure_seconds:
          reported.exposureTime == null || reported.exposureTime <= 0 ? null : reported.exposureTime * TOLD_UNIT_S,
        iso: reported.iso == null || reported.iso <= 0 ? null : reported.iso,
      });
    },
    settle: async () => {
      await track.applyConstraints({ advanced: [FREE] }).catch(() => undefined);
      await settle();
    },
    close: () => {
      track.removeEventListener("ended", onEnd);
      close();
      video.srcObject = null;
    },
  };
}

const FREE = { exposureMode: "continuous" } as MediaTrackConstraintSet;

/** Keep exposure and white balance as they are now, where the camera can. */
async function hold(track: MediaStreamTrack): Promise<void> {
  const can = (typeof track.getCapabilities === "function" ? track.getCapabilities() : {}) as CameraCapabilities;
  const now = track.getSettings() as CameraSettings;
  const held: Record<string, unknown> = {};
  if (can.exposureMode?.includes("manual") === true)
    Object.assign(held, {
      exposureMode: "manual",
      ...(now.exposureTime !== undefined && { exposureTime: now.exposureTime }),
      ...(now.iso !== undefined && { iso: now.iso }),
    });
  if (can.whiteBalanceMode?.includes("manual") === true) held["whiteBalanceMode"] = "manual";
  if (Object.keys(held).length === 0) return;
  // A camera that promised and cannot says so by its settings.
  await track.applyConstraints({ advanced: [held as MediaTrackConstraintSet] }).catch(() => undefined);
}

/** The simulated phone under a made-up sky; `second` is where that sky stands now. */
export function simulatedEyes(kind: SkyKind, seed: number, second: () => number): Eyes {
  const context = canvas();
  return {
    see: async () => {
      const picture = await askSkySeen({ kind, seed, second: second() });
      try {
        return { cells: measured(context, picture), columns: COLUMNS, held: true, exposure_seconds: 0.01, iso: 100 };
      } finally {
        picture.close();
      }
    },
    close: () => undefined,
  };
}
