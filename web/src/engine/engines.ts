import { Engine } from "./engine";

/** What may take longer than a key press: ways to a time, days side by side, plans and whole logs. */
const LONG = new Set([
  "stacks",
  "reach",
  "light",
  "calibration",
  "outing/days",
  "outing/swaps",
  "outing/fillable",
  "outing/wait",
  "log/evidence",
  "log/learnt",
]);

export function takesLong(name: string): boolean {
  return LONG.has(name);
}

/** Two engines: what takes long never holds up a key press. The second one starts when it is first needed. */
export class Engines {
  readonly quick: Engine;
  private readonly make: () => Engine;
  private long: Engine | null = null;

  constructor(make: () => Engine) {
    this.make = make;
    this.quick = make();
  }

  get names(): ReadonlySet<string> {
    return this.quick.names;
  }

  async ask(name: string, body: string, signal: AbortSignal) {
    if (!takesLong(name)) return this.quick.ask(name, body, signal);
    this.long ??= this.make();
    const { long } = this;
    try {
      await long.ready;
    } catch (error) {
      // The next question tries another one; this one is told, not left waiting.
      this.long = null;
      throw error;
    }
    return long.ask(name, body, signal);
  }
}
