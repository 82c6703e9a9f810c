/**
 * The end bell: queued ahead on the audio clock, so that it rings even while the page's own timers sleep.
 */
let context: AudioContext | undefined;
/** Where tones go: an element that plays, so that a locked screen does not put the sound to sleep. */
let out: AudioNode | undefined;
let queued: OscillatorNode[] = [];

/** How long [ms] to wait for the audio: a start that is not allowed is often not refused but left waiting for ever. */
const PATIENCE = 1000;

/** Wake the audio up; must be called from a press. False when the browser refuses or does not answer. */
export async function wake(): Promise<boolean> {
  // Sound before the first press is refused; a browser that is asked all the same warns of it.
  if (!isPressed()) return false;
  try {
    context ??= new AudioContext();
    if (context.state !== "running") await soon(context.resume());
    if (context.state !== "running") return false;
    out ??= await soon(playing(context));
    return true;
  } catch {
    return false;
  }
}

/** Whether this page was pressed yet, where the browser tells. */
function isPressed(): boolean {
  const { userActivation } = navigator as Partial<Navigator>;
  return userActivation?.hasBeenActive ?? true;
}

/** What comes within our patience, nothing otherwise. */
async function soon<T>(promise: Promise<T>): Promise<T | undefined> {
  return Promise.race([promise, new Promise<undefined>((give) => setTimeout(give, PATIENCE))]);
}

/** A stream that an audio element plays all along, all but silent; the context itself where that is refused. */
async function playing(on: AudioContext): Promise<AudioNode> {
  try {
    const stream = on.createMediaStreamDestination();
    const element = new Audio();
    element.srcObject = stream.stream;
    await element.play();
    const hum = on.createOscillator();
    const hush = on.createGain();
    hush.gain.value = 0.0001;
    hum.connect(hush).connect(stream);
    hum.start();
    return stream;
  } catch {
    return on.destination;
  }
}

/**
 * Queue the end bell `seconds` from now, replacing one queued before, with a warning at ten
 * seconds and a tick for each of the last three.
 */
export function queueBell(seconds: number): void {
  silence();
  if (seconds > 20) for (const twice of [10, 9.7]) tone(seconds - twice, 520, 0.15);
  for (const before of [3, 2, 1]) if (seconds > before) tone(seconds - before, 660, 0.09);
  for (const strike of [0, 0.45, 0.9, 1.8, 2.25, 2.7]) tone(Math.max(0, seconds) + strike, 988, 0.35);
}

/** One short tick now: the lead-in counted aloud. */
export function tick(): void {
  tone(0, 660, 0.09);
}

/** Ring now, beside whatever is queued. */
export function ring(): void {
  const waiting = queued;
  for (const strike of [0, 0.3, 0.6, 1.2, 1.5, 1.8]) tone(strike, 1319, 0.25);
  queued = waiting;
}

export function silence(): void {
  for (const node of queued) node.stop();
  queued = [];
}

function tone(after: number, frequency: number, length: number): void {
  if (!context) return;
  const at = context.currentTime + after;
  const oscillator = context.createOscillator();
  const gain = context.createGain();
  oscillator.frequency.value = frequency;
  gain.gain.setValueAtTime(0, at);
  gain.gain.linearRampToValueAtTime(0.5, at + 0.01);
  gain.gain.exponentialRampToValueAtTime(0.001, at + length);
  oscillator.connect(gain).connect(out ?? context.destination);
  oscillator.start(at);
  oscillator.stop(at + length);
  queued = [...queued, oscillator];
}
